import type { ButtonHTMLAttributes } from 'react';

type Look = 'time' | 'main' | 'door' | 'quiet' | 'plain' | 'danger';

const LOOKS: Record<Look, string> = {
  time: 'bg-white text-door border-door hover:bg-door-wash whitespace-nowrap',
  main: 'bg-clay text-white border-clay hover:bg-clay-deep',
  door: 'bg-door text-white border-door hover:bg-door-deep',
  quiet: 'bg-white text-ink border-line-strong hover:bg-lime-deep',
  plain: 'bg-transparent text-ink border-transparent hover:bg-lime-deep',
  danger: 'bg-white text-brick border-brick hover:bg-brick-wash',
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
