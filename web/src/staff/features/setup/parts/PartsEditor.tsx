import type { VisitTypeDoc } from '@zaguan/contracts/setup';
import { type PointerEvent, type ReactNode, useId, useRef } from 'react';
import { useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../../shared/ui/Button.tsx';
import { ListFault, useFault, useValue } from '../components/fields.tsx';
import type { Refs } from '../hooks/useRefs.ts';
import { freeBetween, newThread, setNeeded, type Thread, toParts, toThreads, withoutPart } from './threads.ts';

const STEP_MIN = 5;
const LONGEST_MIN = 720;
const LABEL_PX = 150;
const TRACK_PX = 440;
/** A part stays wide enough to be taken hold of. */
const LEAST_PX = 46;

type Parts = VisitTypeDoc['parts'];

function thingOf(value: string): Pick<Thread, 'what' | 'poolKind' | 'resourceId' | 'capability'> {
  const [what, rest] = [value.split(':')[0] as Thread['what'], value.slice(value.indexOf(':') + 1)];
  return {
    what,
    poolKind: what === 'pool' ? rest : null,
    resourceId: what === 'resource' ? rest : null,
    capability: what === 'present' ? rest : null,
  };
}

/**
 * A visit as a small timeline: its parts side by side, and below them what each needs, a row for each thing. A row
 * that is needed in several parts is the same member throughout. Parts are lengthened by their right edge, needs
 * pressed on and off or painted along a row; everything by keyboard too.
 */
export function PartsEditor({ refs, children }: { refs: Refs; children: ReactNode }) {
  const { t } = useTranslation();
  const needId = useId();
  const form = useFormContext<VisitTypeDoc>();
  const parts = useValue<Parts>('parts');
  const threads = toThreads(parts);
  const set = (next: Parts) =>
    form.setValue('parts', next, { shouldDirty: true, shouldValidate: form.formState.isSubmitted });
  const setThreads = (next: readonly Thread[], of: Parts = parts) => set(toParts(of, next));
  const total = parts.reduce((sum, { lengthMin }) => sum + (lengthMin || 0), 0);
  const widths = widthsOf(parts);
  const nameOf = (thread: Thread): string => {
    switch (thread.what) {
      case 'provider':
        return t('setup.parts.provider');
      case 'present':
        return t('setup.parts.present', {
          what: t(`setup.capability.${thread.capability}`, { defaultValue: thread.capability?.replaceAll('-', ' ') }),
        });
      case 'resource':
        return refs.nameOf(thread.resourceId);
      case 'pool':
        return refs.poolKinds.find(({ value }) => value === thread.poolKind)?.label ?? thread.poolKind ?? '';
    }
  };
  const setLength = (at: number, minutes: number) =>
    set(
      parts.map((part, i) =>
        i === at
          ? { ...part, lengthMin: Math.min(LONGEST_MIN, Math.max(STEP_MIN, Math.round(minutes / STEP_MIN) * STEP_MIN)) }
          : part,
      ),
    );
  return (
    <div data-field="parts" className="flex flex-col gap-2">
      <p className="text-muted">{t('setup.parts.total', { count: total })}</p>
      <div className="rounded-md border border-line-strong bg-panel p-2">
        <div className="flex">
          <span style={{ width: LABEL_PX }} className="shrink-0 self-center text-[0.85rem] text-muted">
            {t('setup.parts.parts')}
          </span>
          {parts.map((part, i) => (
            <PartBlock
              // biome-ignore lint/suspicious/noArrayIndexKey: a part is known by its place alone
              key={i}
              at={i}
              part={part}
              width={widths[i]}
              onLength={(minutes) => setLength(i, minutes)}
              minutesPerPx={total / TRACK_PX}
            />
          ))}
        </div>
        {threads.map((thread, i) => (
          <NeedRow
            key={thread.keys[0]}
            name={nameOf(thread)}
            thread={thread}
            parts={parts}
            widths={widths}
            onSet={(part, needed) => setThreads(setNeeded(threads, i, part, needed))}
          />
        ))}
        <div className="mt-2 flex flex-wrap items-center gap-2">
          <Button
            disabled={parts.length >= 8}
            onClick={() => set([...parts, { name: '', lengthMin: parts.at(-1)?.lengthMin ?? 15, needs: [] }])}
          >
            {t('setup.add.part')}
          </Button>
          <span className="flex items-center gap-1.5">
            <label htmlFor={needId}>{t('setup.add.need')}</label>
            <select
              id={needId}
              className="rounded-md border border-line-strong bg-panel px-2 py-1.5"
              value=""
              onChange={(event) => {
                if (!event.target.value) return;
                // Begins in the last part that needs nothing yet, else in the first.
                const empty = parts.map(({ needs }) => needs.length).lastIndexOf(0);
                setThreads([...threads, newThread(thingOf(event.target.value), Math.max(0, empty), threads)]);
              }}
            >
              <option value="">{t('setup.parts.choose')}</option>
              <option value="provider:">{t('setup.parts.provider')}</option>
              <optgroup label={t('setup.parts.onePool')}>
                {refs.poolKinds.map(({ value, label }) => (
                  <option key={value} value={`pool:${value}`}>
                    {label}
                  </option>
                ))}
              </optgroup>
              <optgroup label={t('setup.parts.someone')}>
                {refs.capabilities.map((value) => (
                  <option key={value} value={`present:${value}`}>
                    {t(`setup.capability.${value}`, { defaultValue: value.replaceAll('-', ' ') })}
                  </option>
                ))}
              </optgroup>
              <optgroup label={t('setup.parts.thisOne')}>
                {refs.places.map(({ value, label }) => (
                  <option key={value} value={`resource:${value}`}>
                    {label}
                  </option>
                ))}
              </optgroup>
            </select>
          </span>
        </div>
      </div>
      <ListFault name="parts" />
      {children}
      <PartDetails
        parts={parts}
        onLength={setLength}
        onName={(at, name) => set(parts.map((part, i) => (i === at ? { ...part, name } : part)))}
        onRemove={(at) =>
          setThreads(
            withoutPart(threads, at),
            parts.filter((_, i) => i !== at),
          )
        }
      />
      <ThreadDetails
        threads={threads}
        nameOf={nameOf}
        onChange={(at, change) =>
          setThreads(threads.map((thread, i) => (i === at ? { ...thread, ...change } : thread)))
        }
        onRemove={(at) => setThreads(threads.filter((_, i) => i !== at))}
      />
    </div>
  );
}

/** Widths in proportion, none too small to be taken hold of. */
function widthsOf(parts: Parts): number[] {
  const total = parts.reduce((sum, { lengthMin }) => sum + (lengthMin || 0), 0) || 1;
  const raw = parts.map(({ lengthMin }) => Math.max(LEAST_PX, ((lengthMin || 0) / total) * TRACK_PX));
  const sum = raw.reduce((a, b) => a + b, 0);
  return raw.map((width) => (width / sum) * Math.max(TRACK_PX, parts.length * LEAST_PX));
}

function PartBlock({
  at,
  part,
  width,
  onLength,
  minutesPerPx,
}: {
  at: number;
  part: Parts[number];
  width: number;
  onLength: (minutes: number) => void;
  minutesPerPx: number;
}) {
  const { t } = useTranslation();
  const drag = useRef<{ x: number; minutes: number; perPx: number } | null>(null);
  const fault = useFault(`parts.${at}`);
  const down = (event: PointerEvent<HTMLElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    drag.current = { x: event.clientX, minutes: part.lengthMin, perPx: Math.max(0.1, minutesPerPx) };
  };
  const move = (event: PointerEvent) => {
    if (drag.current) onLength(drag.current.minutes + (event.clientX - drag.current.x) * drag.current.perPx);
  };
  const KEYS: Record<string, number> = {
    ArrowRight: STEP_MIN,
    ArrowUp: STEP_MIN,
    ArrowLeft: -STEP_MIN,
    ArrowDown: -STEP_MIN,
    PageUp: 30,
    PageDown: -30,
  };
  return (
    <div
      data-part={at}
      style={{ width }}
      className={`relative shrink-0 border-r border-line-strong bg-clay-wash px-1.5 py-1 leading-tight ${fault ? 'outline-2 outline-brick' : ''}`}
    >
      <span className="block truncate text-[0.85rem] font-semibold">
        {part.name || t('setup.parts.nth', { n: at + 1 })}
      </span>
      <span className="block text-[0.85rem]">{t('setup.parts.min', { count: part.lengthMin || 0 })}</span>
      <span
        role="slider"
        tabIndex={0}
        aria-label={t('setup.parts.lengthOf', { part: part.name || t('setup.parts.nth', { n: at + 1 }) })}
        aria-valuemin={STEP_MIN}
        aria-valuemax={LONGEST_MIN}
        aria-valuenow={part.lengthMin || 0}
        aria-valuetext={t('setup.parts.min', { count: part.lengthMin || 0 })}
        className="absolute inset-y-0 -right-3 z-10 w-6 cursor-ew-resize touch-none after:absolute after:inset-y-1 after:left-1/2 after:w-[3px] after:-translate-x-1/2 after:rounded-full after:bg-clay"
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={() => {
          drag.current = null;
        }}
        onKeyDown={(event) => {
          const by = KEYS[event.key];
          if (!by) return;
          event.preventDefault();
          onLength((part.lengthMin || 0) + by);
        }}
      />
    </div>
  );
}

function NeedRow({
  name,
  thread,
  parts,
  widths,
  onSet,
}: {
  name: string;
  thread: Thread;
  parts: Parts;
  widths: readonly number[];
  onSet: (part: number, needed: boolean) => void;
}) {
  const { t } = useTranslation();
  /** Painting along the row: what the first press did goes on. */
  const painting = useRef<boolean | null>(null);
  const free = new Map(
    (thread.what === 'provider' ? freeBetween(parts, thread) : []).map(({ part, minutes }) => [part, minutes]),
  );
  return (
    <div className="mt-1 flex" data-need={thread.keys[0]}>
      <span style={{ width: LABEL_PX }} className="shrink-0 self-center truncate pr-2 text-[0.9rem]" title={name}>
        {name}
      </span>
      {parts.map((part, i) => {
        const needed = thread.parts.includes(i);
        const minutes = free.get(i);
        return (
          <button
            // biome-ignore lint/suspicious/noArrayIndexKey: a part is known by its place alone
            key={i}
            type="button"
            aria-pressed={needed}
            aria-label={[
              t('setup.parts.cell', { what: name, part: part.name || t('setup.parts.nth', { n: i + 1 }) }),
              !needed && minutes && t('setup.parts.free', { count: minutes }),
            ]
              .filter(Boolean)
              .join(', ')}
            style={{ width: widths[i] }}
            className={`h-7 shrink-0 touch-none border-r border-line text-[0.78rem] ${needed ? 'bg-door text-on-fill' : minutes ? 'bg-[repeating-linear-gradient(135deg,var(--color-lime),var(--color-lime)_4px,var(--color-band)_4px,var(--color-band)_6px)]' : 'bg-lime-deep hover:bg-band'}`}
            onPointerDown={(event) => {
              event.currentTarget.releasePointerCapture(event.pointerId);
              painting.current = !needed;
              onSet(i, !needed);
              window.addEventListener(
                'pointerup',
                () => {
                  painting.current = null;
                },
                { once: true },
              );
            }}
            onPointerEnter={() => painting.current !== null && onSet(i, painting.current)}
            onKeyDown={(event) => {
              if (event.key !== ' ' && event.key !== 'Enter') return;
              event.preventDefault();
              onSet(i, !needed);
            }}
          >
            {needed ? '✓' : minutes ? t('setup.parts.free', { count: minutes }) : ''}
          </button>
        );
      })}
    </div>
  );
}

const SMALL = 'rounded-md border border-line-strong bg-panel px-2 py-1 aria-invalid:border-2 aria-invalid:border-brick';

/** The same in fields, for who would rather type. */
function PartDetails({
  parts,
  onLength,
  onName,
  onRemove,
}: {
  parts: Parts;
  onLength: (at: number, minutes: number) => void;
  onName: (at: number, name: string) => void;
  onRemove: (at: number) => void;
}) {
  const { t } = useTranslation();
  return (
    <ul className="flex flex-col gap-1">
      {parts.map((part, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a part is known by its place alone
        <li key={i} className="flex flex-wrap items-center gap-2">
          <span className="w-14 font-semibold">{t('setup.parts.nth', { n: i + 1 })}</span>
          <input
            aria-label={t('setup.parts.nameOf', { n: i + 1 })}
            placeholder={t('setup.parts.name')}
            className={`${SMALL} w-40`}
            value={part.name}
            onChange={(event) => onName(i, event.target.value)}
          />
          <input
            aria-label={t('setup.parts.minutesOf', { n: i + 1 })}
            type="number"
            step={STEP_MIN}
            min={STEP_MIN}
            max={LONGEST_MIN}
            className={`${SMALL} w-20`}
            // Written anew when it was dragged; what is being typed stays.
            key={part.lengthMin}
            defaultValue={part.lengthMin}
            onBlur={(event) => onLength(i, Number(event.target.value) || STEP_MIN)}
          />
          <span>{t('setup.minutes')}</span>
          {parts.length > 1 && (
            <Button look="plain" aria-label={t('setup.parts.removeNth', { n: i + 1 })} onClick={() => onRemove(i)}>
              ✕
            </Button>
          )}
          <PartFault at={i} needs={part.needs.length} />
        </li>
      ))}
    </ul>
  );
}

function PartFault({ at, needs }: { at: number; needs: number }) {
  const whole = useFault(`parts.${at}`);
  const length = useFault(`parts.${at}.lengthMin`);
  const own = whole ?? length;
  return (
    <>
      {own && (
        <p role="alert" className="w-full font-semibold text-brick">
          {own}
        </p>
      )}
      {Array.from({ length: needs }, (_, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a need is known by its place alone
        <NeedFault key={n} name={`parts.${at}.needs.${n}`} />
      ))}
    </>
  );
}

function NeedFault({ name }: { name: string }) {
  const fault = useFault(name);
  return fault ? (
    <p role="alert" className="w-full font-semibold text-brick">
      {fault}
    </p>
  ) : null;
}

function ThreadDetails({
  threads,
  nameOf,
  onChange,
  onRemove,
}: {
  threads: readonly Thread[];
  nameOf: (thread: Thread) => string;
  onChange: (at: number, change: Partial<Thread>) => void;
  onRemove: (at: number) => void;
}) {
  const { t } = useTranslation();
  return (
    <ul className="flex flex-col gap-1">
      {threads.map((thread, i) => {
        const others = threads.filter(
          (other, j) =>
            j !== i && other.what === 'pool' && thread.what === 'pool' && other.poolKind === thread.poolKind,
        );
        return (
          <li key={thread.keys[0]} className="flex flex-wrap items-center gap-2">
            <span className="w-44 truncate font-semibold">{nameOf(thread)}</span>
            {thread.what === 'pool' && (
              <label className="flex items-center gap-1.5">
                {t('setup.parts.turnaround')}
                <input
                  type="number"
                  step={STEP_MIN}
                  min={0}
                  max={120}
                  className={`${SMALL} w-16`}
                  value={thread.turnaroundMin}
                  onChange={(event) => onChange(i, { turnaroundMin: Number(event.target.value) })}
                />
                {t('setup.minutes')}
              </label>
            )}
            {others.length > 0 && (
              <label className="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  className="size-4 accent-door"
                  checked={thread.differentFrom !== null}
                  onChange={(event) => onChange(i, { differentFrom: event.target.checked ? others[0].keys[0] : null })}
                />
                {t('setup.parts.another')}
              </label>
            )}
            {thread.parts.length > 1 && thread.what === 'pool' && (
              <span className="text-muted">{t('setup.parts.sameThroughout')}</span>
            )}
            <Button
              look="plain"
              aria-label={t('setup.parts.removeNeed', { what: nameOf(thread) })}
              onClick={() => onRemove(i)}
            >
              ✕
            </Button>
          </li>
        );
      })}
    </ul>
  );
}
