/** The latest moment at which something happened to a visit: when it was changed last. */
export function lastOf(row: Record<string, unknown>): string {
  const steps = [
    'created_at',
    'confirmed_at',
    'arrived_at',
    'checked_in_at',
    'fulfilled_at',
    'noshow_at',
    'cancelled_at',
  ];
  const moments = steps.flatMap((step) => (typeof row[step] === 'string' ? [row[step]] : []));
  return moments.reduce((a, b) => (a > b ? a : b));
}
