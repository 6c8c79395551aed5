import { useTranslation } from 'react-i18next';
import { Button } from '../../../../shared/ui/Button.tsx';
import { useFault } from '../../../forms/index.ts';
import { MAX_PART_MIN, type Parts, STEP_MIN } from './shape.ts';
import { SMALL } from './small.ts';

/** The same in fields, for who would rather type. */
export function PartDetails({
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
            max={MAX_PART_MIN}
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
        <p role="alert" className="w-full font-semibold text-danger">
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
    <p role="alert" className="w-full font-semibold text-danger">
      {fault}
    </p>
  ) : null;
}
