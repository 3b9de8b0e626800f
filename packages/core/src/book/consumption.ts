import { failure, type Result, success } from '../result/result.ts';
import { type Dimension, dimensionToUnitName, fitsDimension, isSameDimension } from '../units/dimension.ts';
import { readTypedNumber } from '../units/typed-number.ts';
import type { Unit } from '../units/unit.ts';
import { readUnitWord } from './unit-words.ts';

const NUMBER = String.raw`\d+(?:[.,]\d+)?`;
const UNIT = String.raw`[\p{L}²³][\p{L}\d²³]*(?: (?:metres?|meters?|foot|feet))?`;
const NAME = String.raw`[\p{L}_][\p{L}\p{N}_]*`;
const SAID = new RegExp(
  `^(?<a>${NUMBER}) ?(?<u>${UNIT}) ?(?<verb>per|covers|cover|do|does|/) ?(?<b>${NUMBER})? ?(?<v>${UNIT})` +
    `(?: [x×*] (?<times>${NUMBER}|${NAME})(?: (?:coats?|layers?|times|sides?))?)?` +
    String.raw`(?:,? in (?<pack>\p{L}+) of (?<size>${NUMBER}) ?(?<sizeUnit>${UNIT}))?$`,
  'iu',
);

/** True if a text is meant as a consumption rather than as a formula. */
export const isConsumption = (text: string): boolean => SAID.test(text.trim().replace(/\s+/g, ' '));

const figure = (text: string) => text.replace(',', '.');

/**
 * Reads how much of an item a driver needs, said either way round, as a formula of the driver. What was typed is kept by the caller;
 * it reads back as it was typed.
 * - `34 each per m2`, `0.18 l per m2 x 2 coats`, `2.2 hours per 3 m`: so much for so much of the driver
 * - `1 roll covers 9.2 m2`, `5.5 m per hour`: so much of the item does so much of the driver
 * - `22 kg per m2 in bags of 25 kg`
 *
 * Errors: `consumption-unreadable`, `consumption-zero`, `number-ambiguous`, `unit-unknown`, `formula-dimension` with the units that are needed.
 * @param driver dimension of what it goes by; `of` is how that is written in a formula
 * @example readConsumption('5.5 m per hour', { length: 1 }, hour) // 'Driver / 5.5 m/h'
 */
export function readConsumption(text: string, driver: Dimension, item: Unit, of = 'Driver'): Result<string> {
  const said = SAID.exec(text.trim().replace(/\s+/g, ' '))?.groups;
  const driverName = dimensionToUnitName(driver);
  if (!said)
    return failure('consumption-unreadable', `"${text}" cannot be read as a consumption.`, {
      remedy: `Write e.g. "2.5 ${item.symbol} per ${driverName}" or "1 ${item.symbol} covers 4 ${driverName}".`,
    });
  for (const typed of [said.a, said.b, said.times, said.size]) {
    const read = typed === undefined || !/^\d/.test(typed) ? null : readTypedNumber(typed);
    if (read && !read.ok) return read;
  }
  const [first, second] = [readUnitWord(said.u!), readUnitWord(said.v!)];
  if (!first.ok) return first;
  if (!second.ok) return second;
  const [a, b] = [figure(said.a!), figure(said.b ?? '1')];
  if (!(Number(a) > 0) || !(Number(b) > 0))
    return failure('consumption-zero', `"${text}" has a figure that is not more than 0.`, { remedy: 'Correct it.' });
  const pack = readPack(said);
  if (!pack.ok) return pack;
  const wanted = pack.value?.content.dimension ?? item.dimension;
  if (pack.value && !isSameDimension(pack.value.unit.dimension, item.dimension))
    return failure('formula-dimension', `This gives ${pack.value.unit.symbol}; the item is in ${item.symbol}.`);
  const [u, v] = [first.value, second.value];
  const fits = (given: Unit, needed: Dimension) => fitsDimension(given.dimension, needed);
  const isPer = /^(per|\/)$/i.test(said.verb!);
  // Said "so much of the driver per one of the item", as outputs are: 5.5 m per hour.
  const isReversed = isPer ? !(fits(u, wanted) && fits(v, driver)) && fits(u, driver) && fits(v, wanted) : true;
  const isFit = isPer ? isReversed || (fits(u, wanted) && fits(v, driver)) : fits(u, wanted) && fits(v, driver);
  if (!isFit) {
    const needed = pack.value ? pack.value.content.symbol : item.symbol;
    return failure(
      'formula-dimension',
      `"${text}" speaks of ${u.symbol} and ${v.symbol}; ${needed} and ${driverName} are needed.`,
      {
        remedy: `Write e.g. "2.5 ${needed} per ${driverName}" or "1 ${needed} covers 4 ${driverName}".`,
      },
    );
  }
  const base = ((): string => {
    if (isPer && !isReversed)
      return b === '1' ? `${of} * ${a} ${u.symbol}/${v.symbol}` : `${of} / ${b} ${v.symbol} * ${a} ${u.symbol}`;
    if (isPer)
      return b === '1' ? `${of} / ${a} ${u.symbol}/${v.symbol}` : `${of} / ${a} ${u.symbol} * ${b} ${v.symbol}`;
    return a === '1' ? `${of} / ${b} ${v.symbol}/${u.symbol}` : `${of} / ${b} ${v.symbol} * ${a} ${u.symbol}`;
  })();
  const times = said.times === undefined ? '' : ` * ${figure(said.times)}`;
  const packed = pack.value ? ` / ${pack.value.size} ${pack.value.content.symbol}/${pack.value.unit.symbol}` : '';
  return success(`${base}${times}${packed}`);
}

function readPack(
  said: Readonly<Record<string, string | undefined>>,
): Result<{ unit: Unit; size: string; content: Unit } | null> {
  if (said.pack === undefined) return success(null);
  const [unit, content] = [readUnitWord(said.pack), readUnitWord(said.sizeUnit!)];
  if (!unit.ok) return unit;
  if (!content.ok) return content;
  if (!(Number(figure(said.size!)) > 0))
    return failure('consumption-zero', `A ${said.pack} of ${said.size} holds nothing.`, { remedy: 'Give its size.' });
  return success({ unit: unit.value, size: figure(said.size!), content: content.value });
}
