// What the scripts share. Only Node's own modules: these run before anything is installed.
import { execFile, spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
const cache = join(root, 'node_modules', '.cache', 'carafe');

/** Runs a command in the project, its output shown; ends the process where it fails. */
export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options });
  if (error) throw error;
  if (status !== 0) process.exit(status ?? 1);
}

/** The same, giving its exit code and output. */
export function capture(command, args, options = {}) {
  const { status, stdout, stderr } = spawnSync(command, args, {
    cwd: root,
    encoding: 'utf8',
    maxBuffer: 1 << 28,
    ...options,
  });
  return { ok: status === 0, output: `${stdout ?? ''}${stderr ?? ''}` };
}

/** The same, beside others. */
export function captureBeside(command, args, options = {}) {
  return new Promise((done) => {
    execFile(
      command,
      args,
      { cwd: root, maxBuffer: 1 << 28, ...options },
      (error, stdout, stderr) => done({ ok: error === null, output: `${stdout}${stderr}` }),
    );
  });
}

/** The path of a tool that npm installed. */
export function tool(name) {
  return join(root, 'node_modules', '.bin', name);
}

function filesBelow(folder) {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    if (['node_modules', 'dist', 'data'].includes(entry.name)) return [];
    const path = join(folder, entry.name);
    return entry.isDirectory() ? filesBelow(path) : [path];
  });
}

/** A mark of the contents of files and folders, to know whether work was done for them already. */
function markOf(paths) {
  const hash = createHash('sha256');
  for (const path of paths.map((p) => join(root, p))) {
    for (const file of statSync(path).isDirectory() ? filesBelow(path).sort() : [path])
      hash.update(file).update(readFileSync(file));
  }
  return hash.digest('hex');
}

/** Does work only where the contents of `inputs` changed since it was last done. */
export function once(name, inputs, work) {
  const file = join(cache, name);
  const mark = markOf(inputs);
  if (existsSync(file) && readFileSync(file, 'utf8') === mark) return;
  work();
  mkdirSync(cache, { recursive: true });
  writeFileSync(file, mark);
}

async function npm(...args) {
  const running = spawn('npm', args, { cwd: root, stdio: 'inherit' });
  const code = await new Promise((ended, failed) => running.on('exit', ended).on('error', failed));
  if (code !== 0) process.exit(code ?? 1);
}

/**
 * Installs the packages where they are missing or the lock file changed. `beside` is done while those of them that are
 * native are compiled, which keeps one core busy for two minutes.
 */
export async function install(beside = async () => {}) {
  const lock = join(root, 'package-lock.json');
  const done = join(root, 'node_modules', '.carafe-lock');
  const mark = () => createHash('sha256').update(readFileSync(lock)).digest('hex');
  if (existsSync(done) && readFileSync(done, 'utf8') === mark()) return beside();
  console.log('Installing packages (the first time takes a few minutes) …');
  // Not `npm ci`: it refuses a lock file that does not name the binaries of every other platform.
  await npm('install', '--ignore-scripts', '--no-audit', '--no-fund');
  await Promise.all([npm('rebuild'), beside()]);
  writeFileSync(done, mark());
}

/** Builds interface and server where their sources changed. */
export function build() {
  once('build', ['core', 'contract', 'server', 'web', 'demo', 'package-lock.json'], () => {
    console.log('Building …');
    run(process.execPath, ['scripts/build.mjs']);
  });
}

/** Starts a command without waiting for it. */
export function start(command, args, options = {}) {
  return spawn(command, args, { cwd: root, stdio: 'inherit', ...options });
}
