import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterEach, describe, expect, it } from 'vitest';
import { functionLengths } from './functionLengths.ts';

const ROOT = join(import.meta.dirname, '../..');
const FOLDERS = ['core/src', 'contracts/src', 'server/src', 'web/src', 'demo/src'];
const planted: string[] = [];

function cruise(): { violations: string[]; modules: number } {
  const run = spawnSync(
    join(ROOT, 'node_modules/.bin/depcruise'),
    ['--config', '.dependency-cruiser.cjs', '--output-type', 'json', ...FOLDERS],
    { cwd: ROOT, encoding: 'utf8', maxBuffer: 1 << 28 },
  );
  const { summary } = JSON.parse(run.stdout) as {
    summary: { totalCruised: number; violations: { rule: { name: string }; from: string }[] };
  };
  return {
    violations: summary.violations.map((row) => `${row.rule.name}: ${row.from}`),
    modules: summary.totalCruised,
  };
}

function plant(file: string, code: string): void {
  planted.push(join(ROOT, file));
  writeFileSync(join(ROOT, file), code);
}

afterEach(() => {
  for (const file of planted.splice(0)) rmSync(file, { force: true });
});

describe('the rules of who may use whom', () => {
  it('hold, over all modules', () => {
    const { violations, modules } = cruise();
    expect(violations).toEqual([]);
    expect(modules).toBeGreaterThan(200);
  }, 60_000);

  it('are seen when they are broken', () => {
    plant('core/src/planted.ts', "import { readFileSync } from 'node:fs';\nexport const x = readFileSync;\n");
    plant(
      'server/src/features/booking/planted.ts',
      "import { hoursOf } from '../availability/availability.repository.ts';\nexport const x = hoursOf;\n",
    );
    plant('web/src/patient/planted.ts', "import { store } from '../staff/store.ts';\nexport const x = store;\n");
    plant(
      'server/src/platform/planted.ts',
      "import { ENTITIES } from '../features/booking/index.ts';\nexport const x = ENTITIES;\n",
    );
    const { violations } = cruise();
    expect(violations).toContain('core-is-pure: core/src/planted.ts');
    expect(violations).toContain('features-meet-through-index: server/src/features/booking/planted.ts');
    expect(violations).toContain('patient-and-staff-apart: web/src/patient/planted.ts');
    expect(violations).toContain('platform-knows-no-feature: server/src/platform/planted.ts');
  }, 60_000);
});

describe('data access', () => {
  const files = spawnSync('git', ['ls-files', '-co', '--exclude-standard', 'server/src'], {
    cwd: ROOT,
    encoding: 'utf8',
  })
    .stdout.split('\n')
    .filter((file) => file.endsWith('.ts') && !file.includes('.test.') && existsSync(join(ROOT, file)))
    .map((file) => ({ file, text: readFileSync(join(ROOT, file), 'utf8') }));
  const within = (found: RegExp, except: RegExp) =>
    files.filter(({ file, text }) => !except.test(file) && found.test(text)).map(({ file }) => file);

  it('is found at all', () => {
    expect(within(/\bstatement</, /^$/).length).toBeGreaterThan(20);
    expect(within(/\bnativeUpdate\(/, /^$/).length).toBeGreaterThan(10);
  });

  it('has SQL only in its statements', () => {
    expect(within(/\.execute\b/, /^server\/src\/(platform\/db|migrations)\//)).toEqual([]);
    expect(within(/\bstatement[<(]/, /\.sql\.ts$|^server\/src\/platform\/db\/statement\.ts$/)).toEqual([]);
    // Plain connections are for what no entity maps: sessions, limits, the simulated carriers, the health check.
    expect(
      within(/\b(pool|client)\.query\(/, /^server\/src\/(platform|migrations|carriers|app\.ts|prepare\.ts)/),
    ).toEqual([
      // Opens and ends a transaction of its own for one reading.
      'server/src/features/openings/residentClinic.ts',
    ]);
  });

  it('has tables only in repositories, and types of rows elsewhere', () => {
    const places = /^server\/src\/(platform|schema)\/|\.(repository|sql)\.ts$/;
    expect(within(/^import \{[^}]*\} from '[./]+schema\//m, places)).toEqual([]);
    expect(
      within(/\b(nativeUpdate|nativeDelete|findRows?|insertRows?|putRows|replaceRows|insertIfNew)[<(]/, places),
    ).toEqual([]);
  });

  it('changes no row in memory and writes nothing implicitly', () => {
    expect(within(/\bem\.(flush|persist|remove|assign|merge|clear|getReference|create)\(/, /^$/)).toEqual([]);
  });
});

describe('core stays without clock and chance', () => {
  const files = spawnSync('git', ['ls-files', '-co', '--exclude-standard', 'core/src'], { cwd: ROOT, encoding: 'utf8' })
    .stdout.split('\n')
    .filter((file) => file.endsWith('.ts') && !file.includes('.test.'));
  const FORBIDDEN = /Date\.now\(|new Date\(\)|Math\.random\(|Temporal\.Now|toLocale\w+\(\)|new Intl\.\w+\(\)/;

  it('in every file', () => {
    expect(files.length).toBeGreaterThan(50);
    expect(files.filter((file) => FORBIDDEN.test(readFileSync(join(ROOT, file), 'utf8')))).toEqual([]);
  });
});

describe('files and their map', () => {
  const all = spawnSync('git', ['ls-files', '-co', '--exclude-standard'], { cwd: ROOT, encoding: 'utf8' })
    .stdout.split('\n')
    .filter((file) => file && existsSync(join(ROOT, file)));

  it('has no file without a subject of its own', () => {
    expect(all.filter((file) => /(^|\/)(utils|helpers|common)\.tsx?$/.test(file))).toEqual([]);
  });

  it('keeps every source file short enough to read in one sitting', () => {
    const long = all.filter(
      (file) =>
        /\.(ts|tsx|mjs)$/.test(file) &&
        !file.includes('.test.') &&
        readFileSync(join(ROOT, file), 'utf8').split('\n').length > 350,
    );
    expect(long).toEqual([]);
  });

  it('points in MAP.md only to what exists', () => {
    const map = readFileSync(join(ROOT, 'MAP.md'), 'utf8');
    const paths = [...map.matchAll(/`([\w./-]+\/[\w./-]*)`/g)].map((match) => match[1]);
    expect(paths.length).toBeGreaterThan(15);
    expect(paths.filter((path) => !existsSync(join(ROOT, path)))).toEqual([]);
  });

  it('names each rule’s file, words and code alike', () => {
    const rules = all
      .filter((file) => /^core\/src\/openings\/rules\/\w+\.ts$/.test(file) && !file.endsWith('index.ts'))
      .map((file) => file.replace(/.*\/(\w+)\.ts/, '$1').replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`));
    const codes = [...readFileSync(join(ROOT, 'core/src/openings/codes.ts'), 'utf8').matchAll(/'([a-z-]+)'/g)].map(
      (match) => match[1],
    );
    expect(rules.sort()).toEqual(codes.sort());
  });
});

describe('what is drawn', () => {
  const web = spawnSync('git', ['ls-files', '-co', '--exclude-standard', 'web/src'], { cwd: ROOT, encoding: 'utf8' })
    .stdout.split('\n')
    .filter((file) => /\.tsx?$/.test(file) && !file.includes('.test.') && existsSync(join(ROOT, file)))
    .map((file) => ({ file, text: readFileSync(join(ROOT, file), 'utf8') }));

  it('takes its sizes of type from the theme alone', () => {
    const own = /\btext-\[[\d.]+(rem|px|em)\]|\bfont-size:\s*[\d.]+rem/;
    expect(web.filter(({ text }) => own.test(text)).map(({ file }) => file)).toEqual([]);
    expect(own.test('className="text-[0.8rem]"')).toBe(true);
  });

  it('is made of functions that can be seen whole', () => {
    const lengths = web.flatMap(({ file, text }) =>
      functionLengths(text, file.endsWith('x')).map(({ name, lines }) => ({ where: `${name} in ${file}`, lines })),
    );
    expect(lengths.length).toBeGreaterThan(500);
    expect(lengths.filter(({ lines }) => lines > 100)).toEqual([]);
    const sorted = lengths.map(({ lines }) => lines).sort((a, b) => a - b);
    expect(sorted[Math.floor(sorted.length / 2)]).toBeLessThanOrEqual(15);
    expect(sorted[Math.floor(sorted.length * 0.9)]).toBeLessThanOrEqual(55);
  });

  it('gives each request of a page’s store a name of its own: the second of one name would be the first', () => {
    for (const page of ['staff', 'patient']) {
      const names = web
        .filter(({ file }) => file.startsWith(`web/src/${page}/`) && file.endsWith('.api.ts'))
        .flatMap(({ text }) =>
          [...text.matchAll(/^ {2,4}(\w+): (?:(?:query|mutation)Of\(|build\.(?:query|mutation)<)/gm)].map(
            ([, name]) => name,
          ),
        );
      expect(names.length).toBeGreaterThan(10);
      expect(names.filter((name, index) => names.indexOf(name) !== index)).toEqual([]);
    }
  });

  it('counts a function’s lines as they are read', () => {
    const source =
      '// é\nexport function A() {\n  const b = () => {\n    return 1;\n  };\n  return b;\n}\nconst c = () => 1;\n';
    expect(functionLengths(source, true)).toEqual([
      { name: 'A', lines: 6 },
      { name: 'b', lines: 3 },
      { name: 'c', lines: 1 },
    ]);
  });
});
