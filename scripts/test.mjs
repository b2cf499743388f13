// npm test: everything that is checked, on a throw-away PostgreSQL. Parts by name: node scripts/test.mjs unit browser …
import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { needPackages, Plain, throwAwayCluster } from './cluster.mjs';
import { alone, needBuild, needModules, needNode, ROOT } from './project.mjs';

const bin = (name) => join(ROOT, 'node_modules/.bin', name);
const reports = mkdtempSync(join(tmpdir(), 'tin-reports-'));
let cluster = null;
let passed = 0;
let failed = 0;
/** What did not pass, by name: said once more at the end, where it is looked for. */
const fallen = [];

/** Runs a program with its output on ours; whether it ended well. */
function run(command, args, env = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, {
      cwd: ROOT,
      stdio: ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, FORCE_COLOR: '0', ...env },
    });
    child.on('error', () => resolve(false));
    child.on('close', (code) => resolve(code === 0));
  });
}

/** A check that passes or fails as a whole; several run side by side, and each says what it has to say when it ends. */
function check(name, command, args) {
  return new Promise((resolve) => {
    const child = spawn(command, args, {
      cwd: ROOT,
      stdio: ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, FORCE_COLOR: '0' },
    });
    let said = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (text) => (said += text));
    child.on('close', (code) => {
      console.log(`\n== ${name}\n${said.trim()}`);
      if (code === 0) passed += 1;
      else {
        failed += 1;
        fallen.push(name);
      }
      resolve();
    });
  });
}

/** Adds what a suite's report says: how many passed, and the name of each that did not. */
function count(suite, file, read, good) {
  const [ok, bad] = existsSync(file)
    ? read(JSON.parse(readFileSync(file, 'utf8')))
    : [0, ['it left no report']];
  // a run that fell over without a failed test still failed
  if (!good && bad.length === 0) bad.push('it ended badly, with no test that failed');
  passed += ok;
  failed += bad.length;
  fallen.push(...bad.map((name) => `${suite}: ${name}`));
}

const ofVitest = ({ numPassedTests, testResults }) => [
  numPassedTests,
  testResults.flatMap(({ name, status, message, assertionResults }) => {
    const bad = assertionResults.filter((each) => each.status === 'failed');
    // a file that cannot be read has no tests to fail
    if (status === 'failed' && bad.length === 0) return [`${name}: ${message}`];
    return bad.map(({ fullName }) => fullName);
  }),
];

const ofPlaywright = ({ stats, suites }) => {
  const below = ({ specs = [], suites: inner = [] }) => [...specs, ...inner.flatMap(below)];
  const bad = suites.flatMap(below).filter(({ ok }) => !ok);
  return [stats.expected + stats.flaky, bad.map(({ file, line, title }) => `${file}:${line} ${title}`)];
};

/** Parts asked for, and after "--" the files of them that are meant: `npm test database -- finding`. */
const dashes = process.argv.indexOf('--');
const wanted = process.argv.slice(2, dashes < 0 ? undefined : dashes);
const only = dashes < 0 ? [] : process.argv.slice(dashes + 1);

async function vitest(project, env) {
  console.log(`\n== ${project}`);
  const file = join(reports, `${project}.json`);
  const good = await run(
    bin('vitest'),
    [
      'run',
      '--project',
      project,
      '--reporter=default',
      '--reporter=json',
      `--outputFile.json=${file}`,
      ...only,
    ],
    env,
  );
  count(project, file, ofVitest, good);
}

/** One cluster for all parts of this run: two templates that every test's database is copied from. */
async function database() {
  if (cluster) return cluster.env;
  cluster = await throwAwayCluster();
  const env = {
    TIN_TEST_APP_URL: cluster.appUrl,
    TIN_TEST_OWNER_URL: cluster.ownerUrl,
    TIN_TEST_SUPER_URL: cluster.superUrl,
    LOG_LEVEL: 'error',
    TIN_STRICT: '1',
  };
  if (!(await run(process.execPath, ['--import', 'tsx', 'tests/support/make-templates.ts'], env)))
    throw new Plain('The test databases could not be made.');
  cluster.env = env;
  return env;
}

/** Chromium without the frame of its windows, which nobody would see: half the work. The whole one does where there is none. */
const CHROMIUM = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium', '/usr/bin/chromium-browser'];
const chromium = () => CHROMIUM.find((path) => existsSync(path));

function needChromium() {
  try {
    needPackages(['chromium-headless-shell'], () => existsSync(CHROMIUM[0]));
  } catch (error) {
    if (!(error instanceof Plain)) throw error;
    needPackages(['chromium'], () => chromium() !== undefined);
  }
}

async function browser() {
  needChromium();
  // reads the codes of printed labels, as a scanner would
  needPackages(['zbar-tools', 'poppler-utils'], () =>
    ['zbarimg', 'pdftotext'].every((each) => existsSync(`/usr/bin/${each}`)),
  );
  console.log('\n== browser');
  const file = join(reports, 'browser.json');
  const env = {
    ...(await database()),
    PLAYWRIGHT_JSON_OUTPUT_NAME: file,
    TIN_CHROMIUM: chromium(),
  };
  const good = await run(
    bin('playwright'),
    ['test', '--config=tests/browser/playwright.config.ts', ...only],
    env,
  );
  count('browser', file, ofPlaywright, good);
}

/** What the formatter remembers of files that have not changed; not where it would put it by itself. */
const FORMAT_CACHE = join(ROOT, 'node_modules/.cache/format.json');

const PARTS = {
  types: () =>
    check('types', bin('svelte-check'), [
      '--tsgo',
      '--tsconfig',
      './tsconfig.json',
      '--threshold',
      'warning',
      '--output',
      'human',
    ]),
  // what knows Svelte is slow: it reads what is Svelte, and what stands beside it
  lint: async () => {
    await check('lint and layers', bin('oxlint'), [
      '--max-warnings',
      '0',
      '--report-unused-disable-directives',
    ]);
    await check('lint and layers of what is shown', bin('eslint'), [
      'src/lib',
      'src/routes',
      '--max-warnings',
      '0',
    ]);
  },
  format: async () => {
    await check('format', bin('oxfmt'), ['--check']);
    await check('format of what is shown', bin('prettier'), [
      '--check',
      '--log-level',
      'warn',
      '--cache',
      '--cache-location',
      FORMAT_CACHE,
      '**/*.{svelte,css}',
    ]);
  },
  unused: () => check('unused code', bin('knip'), ['--no-progress']),
  unit: () => {
    // looks over the units that are shipped
    needPackages(['systemd'], () => existsSync('/usr/bin/systemd-analyze'));
    return vitest('unit', {});
  },
  database: async () => vitest('database', await database()),
  browser,
};

/** Works through a list, two at a time. */
async function two(works) {
  const left = [...works];
  const take = async () => {
    for (let next = left.shift(); next; next = left.shift()) await next();
  };
  await Promise.all([take(), take()]);
}

async function main() {
  const began = Date.now();
  const stray = wanted.find((name) => !(name in PARTS));
  if (stray)
    throw new Plain(`"${stray}" is no part of the tests. Parts are ${Object.keys(PARTS).join(', ')}.`);
  const parts = wanted.length > 0 ? wanted : Object.keys(PARTS);
  needNode();
  await alone('make', async () => {
    needModules();
    await run(bin('svelte-kit'), ['sync']);
  });
  const took = [['made ready', Date.now()]];
  // what only reads runs side by side with what is made for the others: of two processors none is left idle
  const readers = parts.filter((name) => ['types', 'lint', 'format', 'unused'].includes(name));
  const served = parts.some((name) => name === 'database' || name === 'browser');
  // the build writes the types of the routes anew: whoever reads them then finds some of them gone
  let built = Promise.resolve();
  const make = served ? [() => (built = alone('make', needBuild)), database] : [];
  const read = readers.map((name) =>
    name === 'types' ? () => built.then(() => PARTS.types()) : PARTS[name],
  );
  await two([...make.slice(0, 1), ...read.slice(1), ...read.slice(0, 1), ...make.slice(1)]);
  if (readers.length > 0 || served)
    took.push([[...readers, ...(served ? ['build, demo'] : [])].join(', '), Date.now()]);
  for (const name of parts.filter((each) => !readers.includes(each))) {
    await PARTS[name]();
    took.push([name, Date.now()]);
  }
  const seconds = (from, to) => `${((to - from) / 1000).toFixed(0)} s`;
  for (const [i, [name, ended]] of took.entries())
    console.log(`${i === 0 ? '\n' : ''}${seconds(took[i - 1]?.[1] ?? began, ended)} ${name}`);
  console.log(seconds(began, Date.now()));
}

const clean = () => {
  cluster?.remove();
  rmSync(reports, { recursive: true, force: true });
};
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => (clean(), process.exit(130)));
main()
  .catch((error) => {
    console.error(error instanceof Plain ? `\n${error.message}` : error);
    failed += 1;
  })
  .finally(() => {
    clean();
    if (fallen.length > 0) console.log(`\nDid not pass:\n${fallen.map((name) => `  ${name}`).join('\n')}`);
    console.log(`${passed} passed, ${failed} failed`);
    process.exit(failed === 0 ? 0 : 1);
  });
