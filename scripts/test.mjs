// npm test: everything that must hold, from a fresh clone on. Ends with "N passed, N failed".
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build, capture, captureBeside, install, tool } from './lib.mjs';

/** Debian's headless Chromium, the lighter of its two first. */
const BROWSERS = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'];
const chromium = () => process.env.CHROMIUM ?? BROWSERS.find((path) => existsSync(path)) ?? null;

/** It drives the browser tests; root gets it installed, beside the packages, others are told how. */
async function installChromium() {
  if (chromium() !== null || process.getuid?.() !== 0) return;
  console.log('Installing Chromium …');
  await captureBeside('apt-get', ['update', '-qq']);
  const wanted = ['install', '-y', '-qq', '--no-install-recommends', 'chromium-headless-shell'];
  await captureBeside('apt-get', wanted);
}

/** The tests of a Playwright report, however deep they stand. */
const specsIn = (suites) =>
  suites.flatMap(({ specs = [], suites: inner = [] }) => [...specs, ...specsIn(inner)]);

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

const check = () => Promise.all([checkInTurn(), checkInTurn()]);
await Promise.all([installChromium(), install(check)]);

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
const browserPath = chromium();
if (browserPath === null) {
  failed++;
  console.log(
    'The browser tests need Chromium: apt-get install chromium-headless-shell (or set CHROMIUM to its path).',
  );
} else {
  const browserFile = join(results, 'browser.json');
  const browser = capture(
    tool('playwright'),
    ['test', '-c', 'e2e/playwright.config.ts', '--reporter=list,json'],
    {
      env: { ...process.env, CHROMIUM: browserPath, PLAYWRIGHT_JSON_OUTPUT_NAME: browserFile },
    },
  );
  if (existsSync(browserFile)) {
    const report = JSON.parse(readFileSync(browserFile, 'utf8'));
    const { expected, unexpected, flaky } = report.stats;
    passed += expected + flaky;
    failed += unexpected || (browser.ok ? 0 : 1);
    tell(
      `browser tests: ${expected + flaky} passed, ${unexpected} failed`,
      browser.ok,
      browser.output,
    );
    for (const spec of specsIn(report.suites).filter(({ tests }) => tests[0]?.status === 'flaky'))
      console.log(`late  needed a second try: ${spec.file} › ${spec.title}`);
  } else {
    failed++;
    tell('browser tests', false, browser.output);
  }
}

rmSync(results, { recursive: true, force: true });
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
