import { cva, type VariantProps } from 'class-variance-authority';
import type { ButtonHTMLAttributes } from 'react';

const button = cva(
  'inline-flex items-center justify-center gap-1.5 rounded-md border px-3 py-1.5 font-semibold disabled:opacity-60',
  {
    variants: {
      look: {
        time: 'bg-panel text-accent border-accent hover:bg-accent-subtle whitespace-nowrap',
        primary: 'bg-primary text-on-fill border-primary hover:bg-primary-strong',
        accent: 'bg-accent text-on-fill border-accent hover:bg-accent-strong',
        quiet: 'bg-panel text-foreground border-line-strong hover:bg-surface-deep',
        plain: 'bg-transparent text-foreground border-transparent hover:bg-surface-deep',
        danger: 'bg-panel text-danger border-danger hover:bg-danger-subtle',
      },
    },
    defaultVariants: { look: 'quiet' },
  },
);

type Props = ButtonHTMLAttributes<HTMLButtonElement> & VariantProps<typeof button>;

export function Button({ look, className, type = 'button', ...rest }: Props) {
  return <button type={type} className={button({ look, className })} {...rest} />;
}
