/** The question about waste that buys more than twice of what is needed. @example 1000 %: 11 times */
export function questionWaste(percent: number, of: string) {
  return {
    title: `${percent} % waste?`,
    text: `${of} with ${percent} % waste buys ${Number((1 + percent / 100).toPrecision(4))} times what is needed.`,
    yes: `Keep ${percent} %`,
    no: 'Correct it',
  };
}
