/** A key for what is made here, a drawn room or an allowance; negative, so that it is never that of a model's element. */
export const makeKey = (): number => -1 - (crypto.getRandomValues(new Uint32Array(1))[0]! & 0x3fffffff);
