import { dayNumber, type LocalDate, weekdayOf } from '@zaguan/core/time';
import type { Random } from '../random.ts';
import type { DemoPatient } from './demoPatient.ts';
import type { TypeKey } from './visitTypeData.ts';

interface Course {
  readonly type: TypeKey;
  readonly everyDays: number;
  due: number;
}

/** What each person comes for again and again, and who has not been here yet. */
export interface Courses {
  readonly of: Map<DemoPatient, Course[]>;
  readonly regulars: DemoPatient[];
  readonly waiting: DemoPatient[];
  readonly misses: Map<DemoPatient, number>;
}

export interface Want {
  readonly patient: DemoPatient;
  readonly type: TypeKey;
}

/** Share of the people who were here before the history begins. */
const HERE_BEFORE = 0.5;

/** Visits a working day that no course asks for. */
const BY_CHANCE: readonly (readonly [TypeKey, number])[] = [
  ['follow', 42],
  ['skin', 4],
  ['video', 8],
  ['call', 8],
  ['dietitian', 4],
  ['school', 3],
  ['challenge', 1.3],
  ['drug', 0.7],
  ['patch', 0.6],
  ['patchRead', 1.1],
  ['spirometry', 4],
  ['feno', 4],
];
const NEW_A_DAY = 4.4;

export function startCourses(patients: readonly DemoPatient[], from: LocalDate, random: Random): Courses {
  const courses: Courses = { of: new Map(), regulars: [], waiting: [], misses: new Map() };
  for (const patient of patients) {
    if (patient.status === 'inactive' || patient.status === 'deceased') continue;
    if (random.chance(HERE_BEFORE)) begin(courses, patient, dayNumber(from), random);
    else courses.waiting.push(patient);
  }
  return courses;
}

/** Gives a person their courses; the first of each falls somewhere in its interval. */
function begin(courses: Courses, patient: DemoPatient, day: number, random: Random): void {
  const all: Course[] = [];
  const add = (type: TypeKey, everyDays: number) =>
    all.push({ type, everyDays, due: day + random.int(1, Math.max(2, everyDays)) });
  const draw = random.int(1, 100);
  // Immunotherapy: weekly while it is built up, then every four weeks.
  if (draw <= 3) add('injection', 7);
  else if (draw <= 25) add('injection', 28);
  if (draw > 20 && draw <= 58) {
    add('asthma', 182);
    add('spirometry', 365);
  }
  if (draw > 97) add('venom', 30);
  if (draw > 91 && draw <= 97) add('biologic', 28);
  courses.of.set(patient, all);
  courses.regulars.push(patient);
}

/** How many, on average `mean`, by chance. */
function some(mean: number, random: Random): number {
  const whole = Math.floor(mean);
  return whole + (random.chance(mean - whole) ? 1 : 0) + (random.chance(0.25) ? 1 : 0) - (random.chance(0.25) ? 1 : 0);
}

/** Share of a coming day that is booked by now: nearly all of this week, a fifth in eight weeks. */
function bookedBy(ahead: number): number {
  return ahead <= 0 ? 1 : Math.max(0.2, 1 - ahead / 50);
}

/** Who comes on a date, and for what. Courses that are due come first; what finds no place stays due. */
export function wantsOf(courses: Courses, date: LocalDate, ahead: number, random: Random): Want[] {
  const day = dayNumber(date);
  const share = bookedBy(ahead);
  const saturday = weekdayOf(date) === 6;
  const wants: Want[] = [];
  for (const [patient, all] of courses.of) {
    if (saturday && patient.site !== 'saltbush') continue;
    for (const course of all)
      if (course.due <= day && random.chance(ahead > 0 ? share * 0.5 : 0.6)) wants.push({ patient, type: course.type });
  }
  if (saturday) return wants;
  const newcomers = Math.min(courses.waiting.length, some(NEW_A_DAY * share, random));
  for (let i = 0; i < newcomers; i++) wants.push({ patient: courses.waiting[i], type: 'consult' });
  for (const [type, mean] of BY_CHANCE)
    for (let i = some(mean * share, random); i > 0; i--) wants.push({ patient: random.pick(courses.regulars), type });
  return wants;
}

/** After a visit: the next one of the course is due; who was new is known now. A missed one is due again soon. */
export function courseDue(courses: Courses, { patient, type }: Want, date: LocalDate, missed: boolean): void {
  const day = dayNumber(date);
  if (type === 'consult') {
    courses.waiting.splice(courses.waiting.indexOf(patient), 1);
    courses.regulars.push(patient);
    // The courses begin some weeks later; by whose birth date falls how, so that no draw is needed here.
    courses.of.set(
      patient,
      patient.household % 2 === 0
        ? [{ type: 'injection', everyDays: 7, due: day + 21 }]
        : [{ type: 'asthma', everyDays: 182, due: day + 90 }],
    );
    return;
  }
  const course = courses.of.get(patient)?.find((each) => each.type === type);
  if (course) course.due = day + (missed ? Math.min(7, course.everyDays) : course.everyDays);
}
