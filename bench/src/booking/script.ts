import type { Captured } from './capture.ts';

const UUID = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g;
const HASH = /\\x[0-9a-f]{52}([0-9a-f]{12})/g;
const WRITES = /^(insert|update|delete|with)\b/i;

/**
 * Transactions as a script for pgbench that can run over and over: what was new (ids, hashes, the visit's own dates,
 * the names of locks) is made new each time out of `:k`, twelve digits that no other run has; reads stay as they were.
 *
 * @param isNew whether an id came with these transactions
 * @param date the date on which the visit lies (in UTC too), from which written rows move to dates of their own
 */
export function scriptOf(
  transactions: readonly (readonly Captured[])[],
  isNew: (uuid: string) => boolean,
  date: string,
): string {
  const numbers = new Map<string, number>();
  const renewed = (text: string) =>
    text
      .replace(UUID, (uuid) => {
        if (!isNew(uuid)) return uuid;
        if (!numbers.has(uuid)) numbers.set(uuid, numbers.size + 1);
        return `${String(numbers.get(uuid)).padStart(8, '0')}-0000-4000-8000-:k`;
      })
      .replace(HASH, (hash) => `${hash.slice(0, -12)}:k`);
  const asRun = ({ sql, values }: Captured) => {
    const whole = sql.replace(/\$(\d+)/g, (_, number) => {
      const value = values[Number(number) - 1] ?? null;
      return value === null ? 'NULL' : `'${value.replaceAll("'", "''")}'`;
    });
    const fresh = renewed(whole);
    if (WRITES.test(sql)) return fresh.replaceAll(`${date}T`, ':y-:m-:d ').replaceAll(date, ':y-:m-:d');
    // Names of locks differ from client to client: the peer waits for nobody.
    return sql.includes('pg_advisory_xact_lock') ? fresh.replace(/"(zaguan[^"]*)"/g, '"$1 :k"') : fresh;
  };
  const lines = [
    '\\set n :n + 1',
    '\\set k 100000000000 + :client_id * 1000000000 + :n',
    '\\set y 2300 + :client_id * 100 + :n / 54 % 100',
    '\\set m 10 + :n % 3',
    '\\set d 10 + :n / 3 % 18',
  ];
  for (const statements of transactions) {
    lines.push('begin;');
    for (const each of statements)
      lines.push(
        `${asRun(each)
          .replace(/\s*\n\s*/g, ' ')
          .replace(/;$/, '')};`,
      );
    lines.push('commit;');
  }
  return `${lines.join('\n')}\n`;
}
