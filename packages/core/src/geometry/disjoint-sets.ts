/** Numbers in sets that grow together: who belongs with whom. */
export class DisjointSets {
  private readonly parents: Int32Array;

  constructor(count: number) {
    this.parents = Int32Array.from({ length: count }, (_, i) => i);
  }

  /** The number that stands for the set of another. */
  root(i: number): number {
    const { parents } = this;
    let at = i;
    while (parents[at] !== at) {
      parents[at] = parents[parents[at]!]!;
      at = parents[at]!;
    }
    return at;
  }

  join(a: number, b: number): void {
    this.parents[this.root(b)] = this.root(a);
  }
}
