import { readFileTime } from './file-time.ts';

const file = (name: string) => Buffer.from(`ISO-10303-21;\nHEADER;\n${name}\nFILE_SCHEMA(('IFC4'));\nENDSEC;\nDATA;\n`);

describe('when a file was written', () => {
  it.each([
    ["FILE_NAME('house.ifc','2026-03-02T09:00:00',(''),(''),'','','');", '2026-03-02T09:00:00.000Z'],
    ["FILE_NAME ( 'Ann''s house, 2.ifc' , '2026-03-02T09:00:00+02:00' ,('Ann'),(''),'','','');", '2026-03-02T07:00:00.000Z'],
    ["file_name($,'2026-03-02T09:00',$,$,$,$,$);", '2026-03-02T09:00:00.000Z'],
    ["FILE_NAME('house.ifc','yesterday',(''),(''),'','','');", null],
    ["FILE_NAME('house.ifc','2026-13-42T09:00:00',(''),(''),'','','');", null],
    ["FILE_DESCRIPTION((''),'2;1');", null],
  ])('is read of %s', (line, time) => expect(readFileTime(file(line))).toBe(time)); // biome-ignore format: a case a line
});
