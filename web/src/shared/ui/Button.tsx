import type { ButtonHTMLAttributes } from 'react';

type Look = 'time' | 'main' | 'door' | 'quiet' | 'plain' | 'danger';

const LOOKS: Record<Look, string> = {
  time: 'bg-panel text-door border-door hover:bg-door-wash whitespace-nowrap',
  main: 'bg-clay text-on-fill border-clay hover:bg-clay-deep',
  door: 'bg-door text-on-fill border-door hover:bg-door-deep',
  quiet: 'bg-panel text-ink border-line-strong hover:bg-lime-deep',
  plain: 'bg-transparent text-ink border-transparent hover:bg-lime-deep',
  danger: 'bg-panel text-brick border-brick hover:bg-brick-wash',
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
