import { useTranslation } from 'react-i18next';
import { ArchMark } from '../../../../shared/arch/ArchMark.tsx';
import type { ArchShape } from '../../../../shared/arch/archFor.ts';
import { PopoverButton } from '../../../shell/PopoverButton.tsx';
import { ColorKey } from './ColorKey.tsx';
import type { TypeNames } from './useLane.ts';

const SHAPES: readonly ArchShape[] = [
  'outline',
  'threshold',
  'half',
  'figure',
  'filled',
  'dotted',
  'question',
  'struck',
  'leaning',
];

/** What the marks and colors mean, one press away. */
export function Legend({ types }: { types: TypeNames }) {
  const { t } = useTranslation();
  return (
    <PopoverButton name="legend" words={t('daybook.legend')} className="w-64">
      <p className="mb-2 font-bold">{t('legend.title')}</p>
      <ul className="flex flex-col gap-1.5">
        {SHAPES.map((shape) => (
          <li key={shape} className="flex items-center gap-2">
            <ArchMark shape={shape} label="" size={18} /> {t(`legend.${shape}`)}
          </li>
        ))}
        <li className="mt-1 flex items-center gap-2">
          <span className="h-1.5 w-[18px] bg-accent" /> {t('legend.online')}
        </li>
        <li className="flex items-center gap-2">
          <span className="h-1.5 w-[18px] bg-line-strong" /> {t('legend.desk')}
        </li>
        <li className="flex items-center gap-2">
          <span className="h-[3px] w-[18px] bg-visit-plum" /> {t('legend.present')}
        </li>
        <li className="mt-1 flex items-center gap-2">
          <span className="w-[18px] text-center text-xs font-bold text-warning">3/5</span> {t('legend.open')}
        </li>
        <li className="flex items-center gap-2">
          <span className="w-[18px] text-center text-xs font-bold text-danger">12</span> {t('legend.late')}
        </li>
        <li className="flex items-center gap-2">
          <span className="w-[18px] rounded-sm border border-danger bg-danger-subtle text-center text-xs font-bold text-danger">
            25
          </span>
          {t('legend.tooLate')}
        </li>
        <li className="flex items-center gap-2">
          <span className="w-[18px] rounded-sm bg-warning-subtle text-center text-xs font-bold text-warning">20</span>
          {t('legend.waits')}
        </li>
        <li className="flex items-center gap-2">
          <span className="flex w-[18px] justify-center">
            <span className="rounded-sm bg-danger px-1 text-xs font-bold text-on-fill">!</span>
          </span>
          {t('legend.heldFlag')}
        </li>
      </ul>
      <ColorKey types={types} />
    </PopoverButton>
  );
}
