import type { ArchShape } from './archFor.ts';

const DOOR = 'M3 15 V7.5 A5 5 0 0 1 13 7.5 V15';
const HALF = 'M3 15 V10 H13 V15 Z';

/** A small doorway whose filling tells the status. Drawn in the current text color; without a label it is decoration. */
export function ArchMark({
  shape,
  label,
  size = 16,
  className = '',
}: {
  shape: ArchShape;
  label: string;
  size?: number;
  className?: string;
}) {
  const line = {
    fill: 'none',
    stroke: 'currentColor',
    strokeWidth: 1.7,
    strokeLinejoin: 'round',
    strokeLinecap: 'round',
  } as const;
  const dashed = shape === 'dotted' || shape === 'question' || shape === 'leaning';
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 16 17"
      {...(label ? { role: 'img', 'aria-label': label } : { 'aria-hidden': true })}
      className={`shrink-0 ${className}`}
      transform={shape === 'leaning' ? 'rotate(14)' : undefined}
    >
      {shape === 'filled' && <path d={`${DOOR} Z`} fill="currentColor" />}
      {shape === 'half' && <path d={HALF} fill="currentColor" />}
      <path d={shape === 'filled' ? `${DOOR} Z` : DOOR} {...line} strokeDasharray={dashed ? '1.6 2.2' : undefined} />
      {shape === 'threshold' && <path d="M1 15.6 H15" {...line} />}
      {shape === 'figure' && (
        <>
          <circle cx="8" cy="8.2" r="1.9" fill="currentColor" />
          <path d="M5.2 15.4 C5.2 10.6 10.8 10.6 10.8 15.4 Z" fill="currentColor" />
        </>
      )}
      {shape === 'question' && (
        <text x="8" y="13.4" fontSize="9.5" fontWeight="700" textAnchor="middle" fill="currentColor">
          ?
        </text>
      )}
      {shape === 'struck' && <path d="M1 14 L15 4" {...line} />}
    </svg>
  );
}

/** The mark of Zaguan: a doorway within a doorway. */
export function Logo({
  size = 40,
  frame = 'var(--color-primary)',
  door = 'var(--color-accent)',
}: {
  size?: number;
  frame?: string;
  door?: string;
}) {
  return (
    <svg width={size} height={size} viewBox="0 0 40 40" aria-hidden="true">
      <path d="M7 36 V18 A13 13 0 0 1 33 18 V36" fill="none" stroke={frame} strokeWidth="4.5" />
      <path d="M14.5 36 V20.5 A5.5 5.5 0 0 1 25.5 20.5 V36 Z" fill={door} />
    </svg>
  );
}
