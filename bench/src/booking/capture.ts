import type pg from 'pg';

/** One statement as the server ran it: its text with `$1` and so on, and what stood for them (as SQL text; null: NULL). */
export interface Captured {
  readonly sql: string;
  readonly values: readonly (string | null)[];
}

const LINE = /^\S+ \S+ \S+ \[(\d+)\] (LOG|DETAIL): {2}(.*)$/;
const EXECUTED = /^duration: [\d.]+ ms {2}(?:execute [^:]*|statement): ([\s\S]*)$/;
const PARAMETER = /\$(\d+) = (NULL|'(?:[^']|'')*')/g;

/** Statements of the database that new connections will note in the server's log. Ends with `stopNoting`. */
export async function noteStatements(sql: pg.Pool, database: string): Promise<number> {
  await sql.query(`alter database ${database} set log_min_duration_statement = 0`);
  // Our own server says no values in its log; here they are made up, and wanted.
  await sql.query(`alter database ${database} set log_error_verbosity = 'default'`);
  const { rows } = await sql.query<{ size: string }>(`select size from pg_stat_file('server.log')`);
  return Number(rows[0].size);
}

export async function stopNoting(sql: pg.Pool, database: string): Promise<void> {
  await sql.query(`alter database ${database} reset log_min_duration_statement`);
  await sql.query(`alter database ${database} reset log_error_verbosity`);
}

/** The transactions noted since, one list of statements each, without `begin` and `commit`. */
export async function noted(sql: pg.Pool, since: number): Promise<Captured[][]> {
  const { rows } = await sql.query<{ text: string }>(`select pg_read_file('server.log', $1, 100000000) as text`, [
    since,
  ]);
  const open = new Map<string, Captured[]>();
  const done: Captured[][] = [];
  /** Whose last line ran a statement: the values that follow are its own, not those of one that was only bound. */
  const ran = new Set<string>();
  for (const { pid, kind, text } of entries(rows[0].text)) {
    const mine = open.get(pid);
    if (kind === 'DETAIL') {
      const last = mine?.at(-1);
      if (mine && last && ran.has(pid) && text.startsWith('parameters: '))
        mine[mine.length - 1] = { ...last, values: valuesIn(text) };
      continue;
    }
    const sql = EXECUTED.exec(text)?.[1].trim();
    ran.delete(pid);
    if (!sql) continue;
    ran.add(pid);
    if (/^begin\b/i.test(sql)) open.set(pid, []);
    else if (/^(commit|rollback)\b/i.test(sql)) {
      if (mine && /^commit/i.test(sql)) done.push(mine);
      open.delete(pid);
    } else mine?.push({ sql, values: [] });
  }
  return done;
}

function entries(log: string): { pid: string; kind: string; text: string }[] {
  const found: { pid: string; kind: string; text: string }[] = [];
  for (const line of log.split('\n')) {
    const match = LINE.exec(line);
    if (match) found.push({ pid: match[1], kind: match[2], text: match[3] });
    // A statement over several lines goes on behind a tab.
    else if (line.startsWith('\t') && found.length) found[found.length - 1].text += `\n${line.slice(1)}`;
  }
  return found;
}

function valuesIn(detail: string): (string | null)[] {
  const values: (string | null)[] = [];
  for (const [, number, value] of detail.matchAll(PARAMETER))
    values[Number(number) - 1] = value === 'NULL' ? null : value.slice(1, -1).replaceAll("''", "'");
  return values;
}
