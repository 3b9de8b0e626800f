import type { Ref } from 'react';

/** A hidden field for a file, which a button opens. */
export function FileInput({
  ref,
  label,
  accept,
  onFile,
}: {
  readonly ref: Ref<HTMLInputElement>;
  readonly label: string;
  readonly accept: string;
  readonly onFile: (file: File) => void;
}) {
  return (
    <input
      ref={ref}
      type="file"
      hidden
      accept={accept}
      aria-label={label}
      onChange={(e) => {
        const file = e.target.files?.[0];
        // The same file can be chosen again.
        e.target.value = '';
        if (file) onFile(file);
      }}
    />
  );
}
