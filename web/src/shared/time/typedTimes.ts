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

/**
 * Several stretches as typed: "8-12, 1-5", "8:30 am to noon". `null` where any of them is no stretch, or one begins
 * before the one before it ends.
 */
export function readStretches(text: string): { fromMinute: number; toMinute: number }[] | null {
  const parts = text.split(/[,;]|\band\b/).map((part) => part.split(/\s*(?:[-–—]|\bto\b|\buntil\b)\s*/));
  const found: { fromMinute: number; toMinute: number }[] = [];
  for (const part of parts) {
    if (part.length !== 2) return null;
    const [fromMinute, read] = part.map(readWallTime);
    if (fromMinute === null || read === null) return null;
    // "6:30-7" in the evening: an end without am or pm lies after its start.
    const toMinute = read <= fromMinute && read < 720 && !/[ap]/i.test(part[1]) ? read + 720 : read;
    if (toMinute <= fromMinute) return null;
    if (found.length && fromMinute < found[found.length - 1].toMinute) return null;
    found.push({ fromMinute, toMinute });
  }
  return found;
}
