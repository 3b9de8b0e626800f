/** A file with proxies added: each shows one solid of the file alone, at the origin. */
export interface AddedProxies {
  readonly bytes: Uint8Array;
  /** Record number of the proxy of each solid. */
  readonly proxyOf: ReadonlyMap<number, number>;
}

const END = 'ENDSEC;';

/**
 * Adds a proxy for each of some solids at the end of a file's data, so that the mesh reader draws them uncut. Null if the file has
 * no end of its data. Other records stay as they are.
 */
export function addProxies(bytes: Uint8Array, solids: readonly number[]): AddedProxies | null {
  const end = findLast(bytes, END);
  if (end < 0 || solids.length === 0) return null;
  let next = findHighestId(bytes) + 1;
  const axis = next++;
  const lines = [`#${next}=IFCCARTESIANPOINT((0.,0.,0.));`, `#${axis}=IFCAXIS2PLACEMENT3D(#${next++},$,$);`];
  const placement = next++;
  lines.push(`#${placement}=IFCLOCALPLACEMENT($,#${axis});`);
  const proxyOf = new Map<number, number>();
  for (const solid of solids) {
    const [representation, shape, proxy] = [next++, next++, next++];
    lines.push(
      `#${representation}=IFCSHAPEREPRESENTATION($,'Body','SweptSolid',(#${solid}));`,
      `#${shape}=IFCPRODUCTDEFINITIONSHAPE($,$,(#${representation}));`,
      `#${proxy}=IFCBUILDINGELEMENTPROXY('uncut-${solid}',$,$,$,$,#${placement},#${shape},$,$);`,
    );
    proxyOf.set(solid, proxy);
  }
  const added = new TextEncoder().encode(`${lines.join('\n')}\n`);
  const out = new Uint8Array(bytes.length + added.length);
  out.set(bytes.subarray(0, end), 0);
  out.set(added, end);
  out.set(bytes.subarray(end), end + added.length);
  return { bytes: out, proxyOf };
}

function findLast(bytes: Uint8Array, word: string): number {
  for (let at = bytes.length - word.length; at >= 0; at--) {
    let i = 0;
    while (i < word.length && bytes[at + i] === word.charCodeAt(i)) i++;
    if (i === word.length) return at;
  }
  return -1;
}

const [HASH, ZERO, NINE] = [35, 48, 57];

/** Highest number after a hash anywhere in the file: records and references alike. */
function findHighestId(bytes: Uint8Array): number {
  let highest = 0;
  for (let at = bytes.indexOf(HASH); at >= 0; at = bytes.indexOf(HASH, at + 1)) {
    let id = 0;
    let i = at + 1;
    for (; i < bytes.length && bytes[i]! >= ZERO && bytes[i]! <= NINE && i - at < 11; i++)
      id = id * 10 + bytes[i]! - ZERO;
    if (id > highest) highest = id;
  }
  return highest;
}
