import { useDraggable } from '@dnd-kit/core';
import type { OutputOf } from '@zaguan/contracts';
import type { bench as benchContract } from '@zaguan/contracts/desk';
import type { KeyboardEvent, MouseEvent, TouchEvent } from 'react';
import { useTranslation } from 'react-i18next';
import { prefs } from '../../../prefs.slice.ts';
import { useAppDispatch, useAppSelector } from '../../../store.ts';
import { accountsApi } from '../../accounts/index.ts';
import { bookingApi, useMayBook } from '../../booking/index.ts';
import { useView } from '../views/viewContext.ts';
import { startJudge } from './askJudge.ts';
import { useDragging } from './dragContext.ts';
import type { Picked } from './drag.slice.ts';

type Unplaced = OutputOf<typeof benchContract>['unplaced'][number];

/** Below the lanes: the visits of the Bench, each to be dragged to where it fits. */
export function BenchStrip() {
  const { t } = useTranslation();
  const dispatch = useAppDispatch();
  const isOpen = useAppSelector((state) => state.prefs.benchOpen);
  const mayBook = useMayBook();
  const { data } = bookingApi.useBenchQuery({}, { skip: !mayBook });
  const unplaced = data?.unplaced ?? [];
  if (!unplaced.length) return null;
  return (
    <section
      aria-label={t('bench.title')}
      className="flex items-center gap-2 border-t border-line-strong bg-surface-deep px-3 py-1"
    >
      <button
        type="button"
        aria-expanded={isOpen}
        className="min-h-[24px] shrink-0 font-bold"
        onClick={() => dispatch(prefs.actions.openedBench(!isOpen))}
      >
        {isOpen ? '▾' : '▸'} {t('bench.count', { count: unplaced.length })}
      </button>
      {isOpen && (
        <ul className="flex min-w-0 flex-1 gap-1.5 overflow-x-auto">
          {unplaced.map((row) => (
            <Chip key={row.id} row={row} />
          ))}
        </ul>
      )}
    </section>
  );
}

function Chip({ row }: { row: Unplaced }) {
  const { t } = useTranslation();
  const dragging = useDragging();
  const { namesHidden } = useView();
  const of = useType(row);
  const { listeners, setNodeRef } = useDraggable({ id: `bench ${row.id}`, disabled: !dragging });
  const name = namesHidden ? t('daybookView.someone') : row.patient;
  const whenGrabbed =
    <E extends MouseEvent | TouchEvent | KeyboardEvent>(listener: string) =>
    (event: E) => {
      if (!dragging) return;
      if ('key' in event && (event.key.toLowerCase() !== 'm' || event.ctrlKey || event.metaKey || event.altKey)) return;
      const height = event.currentTarget instanceof HTMLElement ? event.currentTarget.offsetHeight : 0;
      dragging.grabbed.current = {
        picked: toPick(row, name, of),
        end: null,
        barLeft: 0,
        height,
        drawnAfterMin: 0,
      };
      startJudge();
      listeners?.[listener]?.(event);
    };
  return (
    <li className="shrink-0">
      <button
        type="button"
        ref={setNodeRef}
        data-bench-chip={row.id}
        // A note may name somebody.
        title={[row.provider, row.siteName, !namesHidden && row.note].filter(Boolean).join(' · ')}
        className="min-h-[24px] cursor-grab rounded-sm border border-l-[3px] border-line-strong border-l-accent bg-panel px-2 text-left"
        onMouseDown={whenGrabbed<MouseEvent>('onMouseDown')}
        onTouchStart={whenGrabbed<TouchEvent>('onTouchStart')}
        onKeyDown={whenGrabbed<KeyboardEvent>('onKeyDown')}
      >
        <b>{name}</b> {row.visitType}
      </button>
    </li>
  );
}

/** How long it is, and whether it is put with whose lane it is dropped on. */
function useType({ parts, visitTypeId }: Unplaced): { lengthMin: number; needsProvider: boolean } {
  const { data: clinic } = accountsApi.useClinicQuery({});
  const type = clinic?.visitTypes.find(({ id }) => id === visitTypeId);
  const own = parts?.reduce((sum, part) => sum + part.lengthMin, 0);
  return { lengthMin: own ?? type?.lengthMin ?? 0, needsProvider: type?.needsProvider ?? false };
}

/** Before there was any clinic: no lane holds it. */
const NO_TIME = new Date(0).toISOString();

function toPick(row: Unplaced, name: string, { lengthMin, needsProvider }: ReturnType<typeof useType>): Picked {
  const start = row.keeps?.start ?? NO_TIME;
  return {
    visitId: row.keeps?.id ?? row.id,
    version: row.keeps?.version ?? row.version,
    name,
    siteId: row.siteId ?? '',
    // On a room's lane it stays with whom it was wished, if with anybody.
    providerId: needsProvider ? (row.providerId ?? '') : null,
    start,
    end: new Date(Date.parse(start) + lengthMin * 60_000).toISOString(),
    fromBench: true,
    toBook: row.keeps
      ? null
      : { unplacedId: row.id, patientId: row.patientId, visitTypeId: row.visitTypeId, parts: row.parts },
  };
}
