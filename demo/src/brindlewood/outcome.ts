import { epochToWall } from '@zaguan/core/time';
import type { Random } from '../random.ts';
import type { DemoVisit, Past } from './demoVisit.ts';
import type { Courses } from './wants.ts';

/**
 * The demo's hidden law of no-shows: log-odds grow with the days between booking and visit, with visits missed before,
 * and in the first and last hours of the day. Invented, so that measures and advice have something true to find.
 */
export function oddsOfMissing(leadDays: number, missesBefore: number, hour: number): number {
  const early = hour < 9 ? 0.45 : 0;
  const late = hour >= 16 ? 0.35 : 0;
  const logit = -3.4 + 0.022 * Math.min(60, leadDays) + 0.7 * Math.min(3, missesBefore) + early + late;
  return 1 / (1 + Math.exp(-logit));
}

export function outcomeOf(
  courses: Courses,
  visit: Pick<DemoVisit, 'patient' | 'plan' | 'leadDays'>,
  random: Random,
): Past {
  const misses = courses.misses.get(visit.patient) ?? 0;
  const hour = Math.floor(epochToWall('America/Chicago', visit.plan.start).minute / 60);
  if (!random.chance(oddsOfMissing(visit.leadDays, misses, hour))) return 'fulfilled';
  courses.misses.set(visit.patient, misses + 1);
  return 'noshow';
}
