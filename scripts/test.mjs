// npm test: everything that must hold, from a fresh clone on. Ends with "N passed, N failed".
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build, capture, captureBeside, install, tool } from './lib.mjs';

const CHROMIUM = process.env.CHROMIUM ?? '/usr/bin/chromium';

/** Debian's Chromium drives the browser tests; root gets it installed, others are told how. */
function ensureChromium() {
  if (existsSync(CHROMIUM)) return true;
  if (process.getuid?.() === 0) {
    console.log('Installing chromium …');
    capture('apt-get', ['update', '-qq']);
    capture('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'chromium']);
    if (existsSync(CHROMIUM)) return true;
  }
  console.log(
    'The browser tests need Chromium: apt-get install chromium (or set CHROMIUM to its path).',
  );
  return false;
}

let passed = 0;
let failed = 0;
function tell(name, ok, output) {
  console.log(`${ok ? 'ok  ' : 'FAIL'}  ${name}`);
  if (!ok) console.log(output);
}
/** Checks that are one test each: it holds or it does not. The longest first, two at a time. */
const CHECKS = [
  ['lint', 'eslint', ['.', '--max-warnings', '0']],
  ['types', 'tsc', ['--noEmit', '-p', 'tsconfig.json']],
  ['format', 'prettier', ['--check', '.']],
  [
    'architecture',
    'depcruise',
    ['core', 'contract', 'server', 'web', 'demo', '--config', '.dependency-cruiser.cjs'],
  ],
  ['unused code', 'knip', []],
];
async function checkInTurn() {
  for (let next = CHECKS.shift(); next; next = CHECKS.shift()) {
    const [name, command, args] = next;
    const { ok, output } = await captureBeside(tool(command), args);
    tell(name, ok, output);
    if (ok) passed++;
    else failed++;
  }
}

install();
await Promise.all([checkInTurn(), checkInTurn()]);

const results = mkdtempSync(join(tmpdir(), 'carafe-test-'));
const unitFile = join(results, 'unit.json');
const unit = capture(tool('jest'), [
  ...['--json', `--outputFile=${unitFile}`],
  ...['--silent', '--maxWorkers=2'],
]);
if (existsSync(unitFile)) {
  const { numPassedTests, numFailedTests, numFailedTestSuites } = JSON.parse(
    readFileSync(unitFile, 'utf8'),
  );
  passed += numPassedTests;
  // A suite that does not even load counts, though it has no tests to fail.
  failed += Math.max(numFailedTests, numFailedTestSuites);
  tell(`unit tests: ${numPassedTests} passed, ${numFailedTests} failed`, unit.ok, unit.output);
} else {
  failed++;
  tell('unit tests', false, unit.output);
}

build();
if (ensureChromium()) {
  const browserFile = join(results, 'browser.json');
  const browser = capture(
    tool('playwright'),
    ['test', '-c', 'e2e/playwright.config.ts', '--reporter=list,json'],
    {
      env: { ...process.env, CHROMIUM, PLAYWRIGHT_JSON_OUTPUT_NAME: browserFile },
    },
  );
  if (existsSync(browserFile)) {
    const { expected, unexpected, flaky } = JSON.parse(readFileSync(browserFile, 'utf8')).stats;
    passed += expected;
    failed += unexpected + flaky || (browser.ok ? 0 : 1);
    tell(
      `browser tests: ${expected} passed, ${unexpected + flaky} failed`,
      browser.ok,
      browser.output,
    );
  } else {
    failed++;
    tell('browser tests', false, browser.output);
  }
} else failed++;

rmSync(results, { recursive: true, force: true });
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
