import type { ButtonHTMLAttributes } from 'react';

type Look = 'time' | 'primary' | 'accent' | 'quiet' | 'plain' | 'danger';

const LOOKS: Record<Look, string> = {
  time: 'bg-panel text-accent border-accent hover:bg-accent-subtle whitespace-nowrap',
  primary: 'bg-primary text-on-fill border-primary hover:bg-primary-strong',
  accent: 'bg-accent text-on-fill border-accent hover:bg-accent-strong',
  quiet: 'bg-panel text-foreground border-line-strong hover:bg-surface-deep',
  plain: 'bg-transparent text-foreground border-transparent hover:bg-surface-deep',
  danger: 'bg-panel text-danger border-danger hover:bg-danger-subtle',
};

export function Button({
  look = 'quiet',
  className = '',
  type = 'button',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: Look }) {
  return (
    <button
      type={type}
      className={`inline-flex items-center justify-center gap-1.5 rounded-md border px-3 py-1.5 font-semibold disabled:opacity-60 ${LOOKS[look]} ${className}`}
      {...rest}
    />
  );
}
