import { useTranslation } from 'react-i18next';
import { accountsApi } from '../../accounts/index.ts';
import { useView } from '../views/viewContext.ts';
import { type ColorName, colorOf, ORIGIN_COLORS, READINESS_COLORS, STATUS_COLORS } from './colors.ts';
import type { TypeNames } from './useLane.ts';

/** What the visits' colors mean, as the Lens has it. */
export function ColorKey({ types }: { types: TypeNames }) {
  const { t } = useTranslation();
  const { coloredBy } = useView();
  const people = accountsApi.useClinicQuery({}).data?.people ?? [];
  const rows: readonly (readonly [string, string | null | undefined])[] = {
    type: () => Object.values(types).flatMap((type) => (type ? [[type.name, type.color] as const] : [])),
    provider: () => people.filter(({ kind }) => kind === 'provider').map(({ name, color }) => [name, color] as const),
    status: () => keysOf(SHOWN_STATUSES).map((status) => [t(`visit.status.${status}`), STATUS_COLORS[status]] as const),
    origin: () => keysOf(ORIGIN_COLORS).map((origin) => [t(`visit.origin.${origin}`), ORIGIN_COLORS[origin]] as const),
    readiness: () =>
      keysOf(READINESS_COLORS).map((each) => [t(`daybookView.readiness.${each}`), READINESS_COLORS[each]] as const),
  }[coloredBy]();
  return (
    <>
      <p className="mt-3 mb-1 font-bold">
        {t('daybookView.coloredBy')}: {t(`daybookView.colors.${coloredBy}`)}
      </p>
      <ul className="flex flex-col gap-1">
        {rows.map(([words, color]) => (
          <li key={words} className="flex items-center gap-2">
            <span
              className={`h-3.5 w-[18px] rounded-sm border-l-[3px] ${colorOf(color).fill} ${colorOf(color).border}`}
            />
            {words}
          </li>
        ))}
      </ul>
    </>
  );
}

/** Those in which a visit stands on the board. */
const SHOWN_STATUSES = {
  ...{ pending: true, booked: true, arrived: true, 'checked-in': true, fulfilled: true, noshow: true },
} as const satisfies { readonly [S in keyof typeof STATUS_COLORS]?: true };

const keysOf = <K extends string>(of: Readonly<Record<K, ColorName | true>>) => Object.keys(of) as K[];
