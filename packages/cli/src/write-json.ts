/** Elements of a list that are turned into text at once. */
const AT_ONCE = 500;

/**
 * A value as JSON in pieces: what is in the lists of an object comes some elements at a time, so that the text of a large model never
 * stands in memory as a whole. Joined they are what `JSON.stringify` gives.
 */
export function* listJsonPieces(value: unknown): Generator<string> {
  if (Array.isArray(value)) {
    yield '[';
    for (let from = 0; from < value.length; from += AT_ONCE) {
      const part = JSON.stringify(value.slice(from, from + AT_ONCE));
      yield `${from > 0 ? ',' : ''}${part.slice(1, -1)}`;
    }
    yield ']';
  } else if (value !== null && typeof value === 'object') {
    let isFirst = true;
    yield '{';
    for (const [key, inner] of Object.entries(value)) {
      if (inner === undefined || typeof inner === 'function') continue;
      yield `${isFirst ? '' : ','}${JSON.stringify(key)}:`;
      yield* Array.isArray(inner) ? listJsonPieces(inner) : [JSON.stringify(inner)];
      isFirst = false;
    }
    yield '}';
  } else yield JSON.stringify(value);
}
