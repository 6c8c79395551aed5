import type { ChangeEvent } from 'react';

/** A small box with room around it to be hit (WCAG 2.5.8). */
export function Tick({
  label,
  checked,
  onChange,
}: {
  label: string;
  checked: boolean;
  onChange: (event: ChangeEvent<HTMLInputElement>) => void;
}) {
  return (
    <label className="relative inline-flex size-[24px] items-center justify-center align-middle">
      <input
        type="checkbox"
        aria-label={label}
        className="peer absolute inset-0 size-full cursor-pointer opacity-0"
        checked={checked}
        onChange={onChange}
      />
      <span
        aria-hidden="true"
        className="flex size-[15px] items-center justify-center rounded-sm border border-muted bg-panel text-xs leading-none text-transparent peer-checked:border-accent peer-checked:bg-accent peer-checked:text-on-fill peer-focus-visible:outline-3 peer-focus-visible:outline-offset-2 peer-focus-visible:outline-accent"
      >
        ✓
      </span>
    </label>
  );
}
