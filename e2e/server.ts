import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';

/** Starts the built server over a demo database of its own; gives its address, its folder and how to stop it. */
export async function startServer(
  port: number,
  now?: string,
): Promise<{ origin: string; data: string; stop: () => Promise<void> }> {
  const data = mkdtempSync(join(tmpdir(), 'carafe-run-'));
  const env = {
    ...process.env,
    PORT: String(port),
    CARAFE_DATA: data,
    ...(now && { CARAFE_NOW: now }),
  };
  const server = spawn(process.execPath, ['server/dist/main.js'], {
    cwd: resolve(import.meta.dirname, '..'),
    env,
  });
  await new Promise<void>((done, failed) => {
    server.stdout.on('data', (text: Buffer) => String(text).includes('Carafe is at') && done());
    server.on('exit', (code) => failed(new Error(`The server stopped with ${code}.`)));
  });
  const stop = async () => {
    const ended = new Promise((done) => server.once('exit', done));
    server.kill();
    await ended;
  };
  return { origin: `http://127.0.0.1:${port}`, data, stop };
}

const HEADLESS = '/usr/bin/chromium-headless-shell';

/** Debian's Chromium, without what it would ask of a network. */
export const LAUNCH = {
  executablePath:
    process.env['CHROMIUM'] ?? (existsSync(HEADLESS) ? HEADLESS : '/usr/bin/chromium'),
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--no-first-run',
  ],
};
