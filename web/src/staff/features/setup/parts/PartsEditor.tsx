import type { VisitTypeDoc } from '@zaguan/contracts/setup';
import type { ReactNode } from 'react';
import { useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { codeWords } from '../../../../shared/i18n/codeWords.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { ListFault, useValue } from '../../../forms/index.ts';
import type { Refs } from '../hooks/useRefs.ts';
import { NeedPicker, thingOf } from './NeedPicker.tsx';
import { NeedRow } from './NeedRow.tsx';
import { PartBlock } from './PartBlock.tsx';
import { PartDetails } from './PartDetails.tsx';
import { LABEL_PX, lengthNear, type Parts, TRACK_PX, widthsOf } from './shape.ts';
import { ThreadDetails } from './ThreadDetails.tsx';
import { newThread, setNeeded, type Thread, toParts, toThreads, withoutPart } from './threads.ts';

/**
 * A visit as a small timeline: its parts side by side, and below them what each needs, a row for each thing. A row
 * that is needed in several parts is the same member throughout. Parts are lengthened by their right edge, needs
 * pressed on and off or painted along a row; everything by keyboard too.
 */
export function PartsEditor({ refs, children }: { refs: Refs; children: ReactNode }) {
  const { t } = useTranslation();
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
          what: codeWords(t, 'setup.capability', thread.capability ?? '', {}, thread.capability?.replaceAll('-', ' ')),
        });
      case 'resource':
        return refs.nameOf(thread.resourceId);
      case 'pool':
        return refs.poolKinds.find(({ value }) => value === thread.poolKind)?.label ?? thread.poolKind ?? '';
    }
  };
  const setLength = (at: number, minutes: number) =>
    set(parts.map((part, i) => (i === at ? { ...part, lengthMin: lengthNear(minutes) } : part)));
  return (
    <div data-field="parts" className="flex flex-col gap-2">
      <p className="text-muted">{t('setup.parts.total', { count: total })}</p>
      <div className="rounded-md border border-line-strong bg-panel p-2">
        <div className="flex">
          <span style={{ width: LABEL_PX }} className="shrink-0 self-center text-sm text-muted">
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
          <NeedPicker
            refs={refs}
            onPick={(value) => {
              // Begins in the last part that needs nothing yet, else in the first.
              const empty = parts.map(({ needs }) => needs.length).lastIndexOf(0);
              setThreads([...threads, newThread(thingOf(value), Math.max(0, empty), threads)]);
            }}
          />
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
