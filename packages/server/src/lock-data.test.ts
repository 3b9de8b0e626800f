import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { hostname, tmpdir } from 'node:os';
import { join } from 'node:path';
import { isGone, lockData } from './lock-data.ts';

const makeFolder = () => mkdtempSync(join(tmpdir(), 'tally-lock-'));
const holderOf = (pid: number, started: string | null = null) => ({ pid, started, host: hostname() });

describe('the lock of a data folder', () => {
  it('of a process that is dead is replaced at once', async () => {
    const child = spawn(process.execPath, ['-e', '']);
    await new Promise((done) => child.once('exit', done));
    const folder = makeFolder();
    mkdirSync(join(folder, 'in-use.lock'));
    writeFileSync(join(folder, 'in-use.json'), JSON.stringify(holderOf(child.pid!)));
    const release = await lockData(folder);
    await release();
    expect(existsSync(join(folder, 'in-use.json'))).toBe(false);
  });
  it('of a living process, of another machine, or of nobody known refuses, and says who has it', async () => {
    const folder = makeFolder();
    const release = await lockData(folder);
    await expect(lockData(folder)).rejects.toThrow(`process ${process.pid} on ${hostname()}`);
    await release();
    mkdirSync(join(folder, 'in-use.lock'));
    writeFileSync(join(folder, 'in-use.json'), JSON.stringify({ ...holderOf(1_999_999), host: 'elsewhere' }));
    await expect(lockData(folder)).rejects.toThrow('in use by another Crisp Tally');
  });
  it('tells a process from a later one with its number by when it began', () => {
    expect(isGone(holderOf(process.pid))).toBe(false);
    if (process.platform === 'linux') expect(isGone(holderOf(process.pid, '1'))).toBe(true);
  });
});
