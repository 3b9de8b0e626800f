import { failure, type Result, success } from '../result/result.ts';
import { type NumberStyle, readTypedNumber, signsOf, writeTypedNumber } from '../units/typed-number.ts';
import type { SoldAs } from './cost-item.ts';

const NUMBER = String.raw`\d(?:[\d.,' ]*\d)?`;
const PACK = new RegExp(
  String.raw`^(?:packs? of )?(?<size>${NUMBER})(?: ?[\p{L}²³][\p{L}\d²³]*)?(?: packs?)?(?: at (?<price>${NUMBER}))?(?<storey>,? per storey)?$`,
  'iu',
);
const PIECE = `${NUMBER}(?: at ${NUMBER})?`;
const LENGTHS = new RegExp(
  String.raw`^lengths? (?<list>${PIECE}(?: ?[;/] ?${PIECE}|, ${PIECE})*)(?: ?\p{L}+)?(?<storey>,? per storey)?$`,
  'iu',
);

/** How lengths are cut by a list, behind them. */
const CUT = new RegExp(
  String.raw`[,;] cut by a? ?list(?<kerf>[,;] kerf (?<k>${NUMBER}))?(?<over>[,;] keep over (?<o>${NUMBER}))?(?: ?\p{L}+)?(?<not>[,;] not joined)?$`,
  'iu',
);

/**
 * Reads how an item is sold, in its unit; an empty text is "in any amount".
 * Errors: `sold-as-unreadable`, `pack-size-zero`, `number-ambiguous`.
 * @example readSoldAs('packs of 25 kg at 30.00') // { pack: 25, packPrice: '30' }
 * @example readSoldAs('lengths 2.4, 3, 4.2 m per storey') // { lengths: [2.4, 3, 4.2], perStorey: true }
 * @example readSoldAs('lengths 3, 4.2 m, cut by list, kerf 0.004, keep over 1') // { lengths: [3, 4.2], cut: { kerf: 0.004, keepOver: 1 } }
 * @example readSoldAs('lengths 2.4 at 5.10, 3 at 6 m') // { lengths: [2.4, 3], lengthPrices: ['5.10', '6'] }
 */
export function readSoldAs(text: string, style: NumberStyle | null = null): Result<SoldAs | null> {
  /** Of a text that is known to be a figure. */
  const figure = (of: string): number => {
    const read = readTypedNumber(of, style);
    return read.ok ? read.value : Number.NaN;
  };
  const whole = text.trim().replace(/\s+/g, ' ');
  if (whole === '') return success(null);
  const byList = CUT.exec(whole)?.groups;
  const typed = byList ? whole.replace(CUT, '') : whole;
  const pack = PACK.exec(typed)?.groups;
  const cut = LENGTHS.exec(typed)?.groups;
  if ((!pack && !cut) || (pack && byList))
    return failure('sold-as-unreadable', `"${text}" does not say how it is sold.`, {
      remedy:
        'Write e.g. "packs of 25", "packs of 25 at 30.00", "lengths 2.4, 3, 4.2" or "lengths 2.4 at 5.10, 3 at 6.20".',
    });
  const storey = (pack ?? cut)!.storey ? { perStorey: true } : {};
  const pieces = cut?.list?.split(/, | ?[;/] ?/).map((p) => p.split(/ at /i));
  const unclear = [pack?.size, pack?.price, byList?.k, byList?.o, ...(pieces ?? []).flat()]
    .filter((t) => t !== undefined)
    .map((t) => readTypedNumber(t, style))
    .find((n) => !n.ok);
  if (unclear && !unclear.ok) return unclear;
  const figures = pack ? [figure(pack.size!)] : pieces!.map(([length]) => figure(length!));
  if (figures.some((f) => !(f > 0)))
    return failure('pack-size-zero', 'A pack or a length is more than 0.', { remedy: 'Correct its size.' });
  if (!pack) {
    const prices = pieces!.flatMap(([, price]) =>
      price === undefined ? [] : [/^\d+[.,]\d{1,2}$/.test(price) ? price.replace(',', '.') : String(figure(price))],
    );
    if (prices.length > 0 && prices.length < figures.length)
      return failure('sold-as-unreadable', 'Some lengths have a price and some have none.', {
        remedy: 'Give every length its price, or none of them.',
      });
    const terms = byList && {
      ...(byList.k === undefined ? {} : { kerf: figure(byList.k) }),
      ...(byList.o === undefined ? {} : { keepOver: figure(byList.o) }),
      ...(byList.not === undefined ? {} : { joined: false }),
    };
    return success({
      lengths: figures,
      ...(prices.length > 0 ? { lengthPrices: prices } : {}),
      ...(terms ? { cut: terms } : {}),
      ...storey,
    });
  }
  return success({
    pack: figures[0]!,
    ...(pack.price === undefined ? {} : { packPrice: String(figure(pack.price)) }),
    ...storey,
  });
}

/** How an item is sold, as `readSoldAs` reads it. */
export function showSoldAs(sold: SoldAs | undefined, unit: string, style: NumberStyle | null = null): string {
  if (!sold) return '';
  const write = (figure: number | string) => writeTypedNumber(figure, style);
  const storey = sold.perStorey ? ', per storey' : '';
  if (sold.lengths) {
    const { lengthPrices } = sold;
    const pieces = sold.lengths.map((l, i) => (lengthPrices ? `${write(l)} at ${write(lengthPrices[i]!)}` : write(l)));
    const comma = style && signsOf(style).decimal === ',' ? '; ' : ', ';
    const { cut } = sold;
    const byList = cut
      ? [
          '',
          'cut by list',
          ...(cut.kerf === undefined ? [] : [`kerf ${write(cut.kerf)}`]),
          ...(cut.keepOver === undefined ? [] : [`keep over ${write(cut.keepOver)}`]),
          ...(cut.joined === false ? ['not joined'] : []),
        ].join(comma)
      : '';
    return `lengths ${pieces.join(comma)} ${unit}${storey}${byList}`;
  }
  const pack = write(sold.pack ?? 0);
  const size = unit === 'each' ? pack : `${pack} ${unit}`;
  return `packs of ${size}${sold.packPrice === undefined ? '' : ` at ${write(sold.packPrice)}`}${storey}`;
}
