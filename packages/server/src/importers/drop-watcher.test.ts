import { mkdirSync, mkdtempSync, rmSync, symlinkSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DropWatcher } from './drop-watcher.ts';

const WHOLE = 'ISO-10303-21;\nEND-ISO-10303-21;\n';

function makeWatcher(folder = mkdtempSync(join(tmpdir(), 'tally-drop-'))) {
  const taken: string[] = [];
  const logged: unknown[] = [];
  const uploads = mkdtempSync(join(tmpdir(), 'tally-up-'));
  let n = 0;
  const watcher = new DropWatcher({
    folder,
    uploadPath: () => join(uploads, String(n++)),
    isProject: async (id) => id === 'p',
    bringFile: async (projectId, name) => {
      if (name === 'refused.ifc') throw new Error('This very file is revision 1 already.');
      taken.push(`${projectId}/${name}`);
    },
    log: (error) => void logged.push(error),
  });
  return { watcher, folder, taken, logged, path: watcher.projectFolder('p') };
}
/** A file is taken when it is the same in two looks. */
const look = async (watcher: DropWatcher) => {
  await watcher.scan();
  await watcher.scan();
};

describe('the drop folder', () => {
  it('is read past what cannot be taken; that is told', async () => {
    const { watcher, path, taken, logged } = makeWatcher();
    symlinkSync(join(path, 'nowhere.ifc'), join(path, 'a-link.ifc'));
    mkdirSync(join(path, 'b-folder.ifc'));
    writeFileSync(join(path, 'refused.ifc'), WHOLE);
    writeFileSync(join(path, 'z.ifc'), WHOLE);
    writeFileSync(join(path, 'notes.txt'), 'no model');
    await look(watcher);
    expect(taken).toEqual(['p/z.ifc']);
    expect(watcher.listTroubles('p')).toEqual([
      { name: 'a-link.ifc', reason: 'It is a link to a file that is not there.' },
      { name: 'b-folder.ifc', reason: 'It is a folder, not a file.' },
      { name: 'refused.ifc', reason: 'This very file is revision 1 already.' },
    ]);
    expect(logged).toEqual([]);
    rmSync(join(path, 'a-link.ifc'));
    await look(watcher);
    expect(watcher.listTroubles('p').map((t) => t.name)).not.toContain('a-link.ifc');
  });
  it('is not read again after a restart, but what has changed since is', async () => {
    const first = makeWatcher();
    writeFileSync(join(first.path, 'a.ifc'), WHOLE);
    await look(first.watcher);
    const second = makeWatcher(first.folder);
    await look(second.watcher);
    expect([first.taken, second.taken]).toEqual([['p/a.ifc'], []]);
    utimesSync(join(first.path, 'a.ifc'), new Date(), new Date(Date.now() + 5000));
    await look(second.watcher);
    expect(second.taken).toEqual(['p/a.ifc']);
  });
  it('of no project is named and left alone', async () => {
    const { watcher, folder, taken } = makeWatcher();
    mkdirSync(join(folder, 'old-job'));
    writeFileSync(join(folder, 'old-job', 'a.ifc'), WHOLE);
    await look(watcher);
    expect([taken, await watcher.listUnknownFolders()]).toEqual([[], ['old-job']]);
  });
});
