import { failure, success } from '../result/result.ts';
import { compileTextMatcher } from '../scopes/text-matcher.ts';
import { isDimensionless } from '../units/dimension.ts';
import { foldText } from '../units/fold-text.ts';
import { dimensionOf, type FormulaFunction, mismatch, NO_RUN } from './formula-function.ts';
import { type ElementLabel, TEXT, TRUTH } from './formula-types.ts';
import { hasOneFigure, readNumberIn } from './number-in-text.ts';
import { hasOneText, readTextIn } from './text-in-text.ts';

/** What the element is called, in one way. */
const label = (name: string, what: ElementLabel, meaning: string): FormulaFunction => ({
  name,
  usage: `${name}()`,
  meaning,
  arity: [0, 0],
  readsElement: true,
  reads: () => [`t:${what}`],
  check: () => success(TEXT),
  compile: () => (run) => {
    const text = run.label?.(what) ?? null;
    if (text === null)
      run.problem ??= {
        code: 'formula-text-missing',
        message: `The element has nothing for ${name}().`,
        remedy: 'Take another text, or let the rule catch only elements that have one.',
      };
    return text ?? '';
  },
});

/** Functions over texts: what an element is called, whether one is like another, the figure that stands in one. */
export const TEXT_FUNCTIONS: readonly FormulaFunction[] = [
  label('elementName', 'name', 'Name of the element.'),
  label('typeName', 'type', 'Name of its type.'),
  label('tag', 'tag', 'Its tag, or mark.'),
  label('material', 'material', 'Its materials, with commas between.'),
  label('code', 'code', 'Its codes, with commas between.'),
  {
    name: 'numberIn',
    usage: 'numberIn(typeName(), "EI#") or numberIn(typeName(), "x#", 12.5)',
    meaning:
      'The figure that stands in a text at the # of a pattern, looked for anywhere in it; * is any text between. The third value is taken where it is not there.',
    arity: [2, 3],
    check: ([text, pattern, other]) => {
      if (text!.type.kind !== 'text' || pattern!.type.kind !== 'text' || !pattern!.isConstant)
        return failure('formula-arguments', 'numberIn needs a text, and a pattern in quotation marks.');
      if (!hasOneFigure(String(pattern!.evaluate(NO_RUN))))
        return failure('formula-arguments', 'The pattern of numberIn has one # where the figure stands.', {
          remedy: 'e.g. numberIn(typeName(), "EI#")',
        });
      const d = other && dimensionOf(other);
      return other && !(d && isDimensionless(d))
        ? mismatch('The third value of numberIn is a plain number.', 'Give the unit behind: numberIn(…) * 1 mm')
        : success({ kind: 'number', dimension: {} });
    },
    compile: ([text, wanted, other]) => {
      const pattern = String(wanted!.evaluate(NO_RUN));
      return (run) => {
        const from = String(text!.evaluate(run));
        if (run.problem) return Number.NaN;
        const figure = readNumberIn(from, pattern) ?? (other ? (other.evaluate(run) as number) : null);
        if (figure === null)
          run.problem ??= {
            code: 'formula-figure-missing',
            message: `"${from}" has no figure at the # of "${pattern}".`,
            remedy: 'Correct the pattern, or give a third value for what has none.',
          };
        return figure ?? Number.NaN;
      };
    },
  },
  {
    name: 'textIn',
    usage: 'textIn(typeName(), "finish @") or textIn(typeName(), ", @ /", "none")',
    meaning:
      'The text that stands in another at the @ of a pattern, looked for anywhere in it: up to what the pattern has behind it, else one word; * is any text between. The third value is taken where it is not there.',
    arity: [2, 3],
    check: ([text, pattern, other]) => {
      if (text!.type.kind !== 'text' || pattern!.type.kind !== 'text' || !pattern!.isConstant)
        return failure('formula-arguments', 'textIn needs a text, and a pattern in quotation marks.');
      if (!hasOneText(String(pattern!.evaluate(NO_RUN))))
        return failure('formula-arguments', 'The pattern of textIn has one @ where the text stands.', {
          remedy: 'e.g. textIn(typeName(), "finish @")',
        });
      return other && other.type.kind !== 'text'
        ? failure('formula-arguments', 'The third value of textIn is a text, in quotation marks.')
        : success(TEXT);
    },
    compile: ([text, wanted, other]) => {
      const pattern = String(wanted!.evaluate(NO_RUN));
      return (run) => {
        const from = String(text!.evaluate(run));
        if (run.problem) return '';
        const found = readTextIn(from, pattern) ?? (other ? String(other.evaluate(run)) : null);
        if (found === null)
          run.problem ??= {
            code: 'formula-text-missing',
            message: `"${from}" has no text at the @ of "${pattern}".`,
            remedy: 'Correct the pattern, or give a third value for what has none.',
          };
        return found ?? '';
      };
    },
  },
  {
    name: 'like',
    usage: 'like(layerMaterial(), "Mineral*")',
    meaning: 'Whether a text is like another, with * and ? as wildcards; case and accents do not matter.',
    arity: [2, 2],
    check: ([a, b]) =>
      a!.type.kind === 'text' && b!.type.kind === 'text'
        ? success(TRUTH)
        : failure('formula-arguments', 'like needs a text, and a text to compare it with.'),
    compile: ([text, wanted]) => {
      let pattern: string | null = null;
      let matches = compileTextMatcher('');
      return (run) => {
        const now = String(wanted!.evaluate(run));
        if (now !== pattern) {
          pattern = now;
          matches = compileTextMatcher(now);
        }
        return matches(foldText(String(text!.evaluate(run))));
      };
    },
  },
];
