/** Every platform that runs this has the two classes, but the language itself does not declare them. */
declare class TextEncoderLike {
  encode(text: string): Uint8Array;
}
declare class TextDecoderLike {
  decode(bytes: Uint8Array): string;
}
const platform = globalThis as unknown as { TextEncoder: typeof TextEncoderLike; TextDecoder: typeof TextDecoderLike };

export const encodeUtf8 = (text: string): Uint8Array => new platform.TextEncoder().encode(text);

/** Bytes that are no UTF-8 read as the sign for unknown ones. */
export const decodeUtf8 = (bytes: Uint8Array): string => new platform.TextDecoder().decode(bytes);
