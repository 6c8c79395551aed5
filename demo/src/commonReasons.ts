import type { Orm } from '@zaguan/server/platform/db/orm';
import { idOf } from './random.ts';
import { insertRows } from './rows.ts';

const REASONS = {
  follow: [
    ['Symptoms are back', 'Han vuelto los síntomas'],
    ['Test results', 'Resultados de pruebas'],
    ['New medicine', 'Medicina nueva'],
    // Two by one press.
    ['Test results; New medicine', 'Resultados de pruebas; Medicina nueva'],
  ],
  consult: [
    ['Food allergy', 'Alergia a alimentos'],
    ['Asthma or wheezing', 'Asma o silbidos'],
    ['Hives or rash', 'Urticaria o sarpullido'],
    ['Reaction to a sting', 'Reacción a una picadura'],
  ],
} as const;

/** What people usually come for: a press on the patients' page instead of typing. */
export async function loadCommonReasons(orm: Orm, typeIds: Record<keyof typeof REASONS, string>): Promise<void> {
  await insertRows(
    orm,
    'visit_reason',
    (['follow', 'consult'] as const).flatMap((key) =>
      REASONS[key].map(([label_en, label_es], i) => ({
        id: idOf(`reason ${key} ${i}`),
        visit_type_id: typeIds[key],
        label_en,
        label_es,
        active: true,
        sort_order: i + 1,
      })),
    ),
  );
}
