import { Connection } from './connection.ts';

describe('whether the server answers', () => {
  it('is told when it changes, and only then', () => {
    const connection = new Connection();
    const told: boolean[] = [];
    const stop = connection.listen(() => told.push(connection.read()));
    for (const isUp of [true, false, false, true]) connection.set(isUp);
    stop();
    connection.set(false);
    expect([told, connection.read()]).toEqual([[false, true], false]);
  });
});
