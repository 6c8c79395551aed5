import { describe, expect, it } from 'vitest';
import { epochToWall, type LocalDate, wallToEpoch, type ZoneId } from '../time/index.ts';
import { shiftedStart } from './shift.ts';

const CHICAGO = 'America/Chicago' as ZoneId;
const DENVER = 'America/Denver' as ZoneId;
const at = (zone: ZoneId, date: string, minute: number) => ({
  zone,
  start: wallToEpoch(zone, date as LocalDate, minute),
});

describe('moving along', () => {
  it('keeps the hour of a series over a change of clocks (2027-03-14, by hand)', () => {
    // Moved from Tuesday 9:00 to Wednesday 10:30: the one four weeks later goes to Wednesday 10:30 too, by then in CDT.
    const [from, to] = [at(CHICAGO, '2027-03-02', 540), at(CHICAGO, '2027-03-03', 630)];
    const start = shiftedStart(from, to, at(CHICAGO, '2027-03-30', 540));
    expect(epochToWall(CHICAGO, start)).toMatchObject({ date: '2027-03-31', minute: 630 });
    expect(start - to.start).toBe(28 * 1440 - 60);
  });

  it('keeps visits back to back so, and goes over midnight both ways', () => {
    const from = at(CHICAGO, '2027-01-05', 600);
    const next = at(CHICAGO, '2027-01-05', 620);
    const later = at(CHICAGO, '2027-01-06', 15);
    expect(shiftedStart(from, later, next) - later.start).toBe(20);
    const earlier = at(CHICAGO, '2027-01-04', 1430);
    expect(epochToWall(CHICAGO, shiftedStart(from, earlier, next))).toMatchObject({ date: '2027-01-05', minute: 10 });
  });

  it('reads the clock of the site it goes to', () => {
    const [from, to] = [at(CHICAGO, '2027-01-05', 600), at(DENVER, '2027-01-07', 600)];
    expect(shiftedStart(from, to, at(CHICAGO, '2027-01-05', 640), DENVER)).toBe(
      wallToEpoch(DENVER, '2027-01-07' as LocalDate, 640),
    );
  });

  it('lands after the gap where the hour does not exist', () => {
    // 2:30 on the day the clocks go forward is 3:30 (RFC 5545, 3.3.5: read with the offset before the gap).
    const [from, to] = [at(CHICAGO, '2027-03-06', 120), at(CHICAGO, '2027-03-07', 150)];
    expect(epochToWall(CHICAGO, shiftedStart(from, to, at(CHICAGO, '2027-03-13', 120))).minute).toBe(210);
  });
});
