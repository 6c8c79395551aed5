import { useId } from 'react';

/** A button that asks for one file. The same file can be given again after it was mended. */
export function FileButton({
  label,
  accept,
  disabled = false,
  onFile,
}: {
  label: string;
  /** What the browser's dialog offers, as in HTML's `accept`. */
  accept: string;
  disabled?: boolean;
  onFile: (file: File) => void;
}) {
  const id = useId();
  return (
    <label
      htmlFor={id}
      className="inline-flex cursor-pointer items-center self-start rounded-md border border-line-strong bg-panel px-3 py-1.5 font-semibold hover:bg-surface-deep has-focus-visible:outline-3 has-focus-visible:outline-accent has-disabled:opacity-60"
    >
      {label}
      <input
        id={id}
        type="file"
        accept={accept}
        disabled={disabled}
        className="sr-only"
        onChange={({ target }) => {
          const file = target.files?.[0];
          if (file) onFile(file);
          target.value = '';
        }}
      />
    </label>
  );
}
