import { useController } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../../shared/ui/Button.tsx';
import { ArchMark } from '../../../../shared/arch/ArchMark.tsx';
import { useFault, useValue } from '../../../forms/index.ts';

/** The shipped map covers the towns of nowhere: degrees of a square in which the demo's towns lie. */
const WEST = -120;
const EAST = -80;
const NORTH = 48;
const SOUTH = 28;
const W = 380;
const H = 190;
const STEP = 0.05;

const GRID = [1, 2, 3, 4, 5, 6, 7, 8, 9].map((n) => `M${n * 38} 0 V ${H} M0 ${n * 19} H ${W}`).join(' ');

const xOf = (longitude: number) => ((longitude - WEST) / (EAST - WEST)) * W;
const yOf = (latitude: number) => ((NORTH - latitude) / (NORTH - SOUTH)) * H;
const round = (value: number) => Math.round(value * 10_000) / 10_000;

/** Where the site is, pointed at on the shipped map or typed; the point can be moved by arrow keys too. */
export function SitePoint() {
  const { t } = useTranslation();
  const latitude = useController({ name: 'latitude' });
  const longitude = useController({ name: 'longitude' });
  const name = useValue<string>('name');
  const fault = useFault('latitude');
  const lat = latitude.field.value as number | null;
  const lon = longitude.field.value as number | null;
  const set = (nextLat: number | null, nextLon: number | null) => {
    latitude.field.onChange(nextLat === null ? null : round(Math.min(NORTH, Math.max(SOUTH, nextLat))));
    longitude.field.onChange(nextLon === null ? null : round(Math.min(EAST, Math.max(WEST, nextLon))));
  };
  const move = (dLat: number, dLon: number) => set((lat ?? 39) + dLat, (lon ?? -98) + dLon);
  const KEYS: Record<string, [number, number]> = {
    ArrowUp: [STEP, 0],
    ArrowDown: [-STEP, 0],
    ArrowLeft: [0, -STEP],
    ArrowRight: [0, STEP],
  };
  const type = (field: 'latitude' | 'longitude', value: number | null) => (
    <label className="flex items-center gap-2">
      <span className="w-20 font-semibold">{t(`setup.site.${field}`)}</span>
      <input
        type="number"
        step="0.0001"
        className="w-32 rounded-md border border-line-strong bg-panel px-2 py-1"
        value={value ?? ''}
        onChange={(event) => {
          const next = event.target.value === '' ? null : Number(event.target.value);
          (field === 'latitude' ? latitude : longitude).field.onChange(next);
        }}
      />
    </label>
  );
  return (
    <div data-field="latitude" className="flex flex-col gap-2">
      <span className="font-semibold">{t('setup.site.point')}</span>
      <button
        type="button"
        aria-label={t('setup.pointAt', { where: lat === null ? t('setup.noPoint') : `${lat}, ${lon}` })}
        className="relative block overflow-hidden rounded-md border border-line-strong bg-panel p-0"
        style={{ width: W, height: H }}
        onClick={(event) => {
          // A press of a key has no place.
          if (event.detail === 0) return;
          const { offsetX, offsetY } = event.nativeEvent;
          set(NORTH - (offsetY / H) * (NORTH - SOUTH), WEST + (offsetX / W) * (EAST - WEST));
        }}
        onKeyDown={(event) => {
          const by = KEYS[event.key];
          if (!by) return;
          event.preventDefault();
          move(...by);
        }}
      >
        <svg viewBox={`0 0 ${W} ${H}`} className="pointer-events-none absolute inset-0" aria-hidden="true">
          <path d={`M0 150 Q 60 120 120 140 T 240 110 T ${W} 130 V ${H} H 0 Z`} className="fill-visit-moss-subtle" />
          <path
            d={`M0 60 Q 90 20 170 60 T ${W} 40`}
            className="fill-none stroke-visit-blue"
            strokeWidth="3"
            opacity="0.5"
          />
          <path d={GRID} className="stroke-line" strokeWidth="0.6" />
        </svg>
        {lat !== null && lon !== null && (
          <span
            className="pointer-events-none absolute -translate-x-1/2 -translate-y-full text-primary"
            style={{ left: xOf(lon), top: yOf(lat) }}
          >
            <ArchMark shape="filled" label={name} size={22} />
          </span>
        )}
      </button>
      <div className="flex flex-wrap items-center gap-3">
        {type('latitude', lat)}
        {type('longitude', lon)}
        <Button look="plain" onClick={() => set(null, null)}>
          {t('setup.removePoint')}
        </Button>
      </div>
      {fault && (
        <p role="alert" className="font-semibold text-danger">
          {fault}
        </p>
      )}
    </div>
  );
}
