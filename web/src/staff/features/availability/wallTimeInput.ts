/**
 * Minutes after midnight of a time as typed: "8:30 am", "8.30", "830", "16", "4p", "noon". Without am or pm, 1 to 6
 * is read as afternoon, as clinics mean it. `null` when it is no time or not on five minutes.
 */
export function readWallTime(text: string): number | null {
  const clean = text.trim().toLowerCase().replace(/\./g, ':').replace(/\s+/g, '');
  if (clean === 'noon') return 720;
  if (clean === 'midnight') return 1440;
  const parts = /^(\d{1,2}):?(\d{2})?(a|p|am|pm|a:m:|p:m:)?$/.exec(clean);
  if (!parts) return null;
  const hour = Number(parts[1]);
  const minute = Number(parts[2] ?? 0);
  const half = parts[3]?.[0];
  if (minute > 59 || minute % 5 !== 0 || hour > 24 || (half && (hour < 1 || hour > 12))) return null;
  const hours = half === 'p' ? (hour % 12) + 12 : half === 'a' ? hour % 12 : hour >= 1 && hour <= 6 ? hour + 12 : hour;
  const total = hours * 60 + minute;
  return total <= 1440 ? total : null;
}
