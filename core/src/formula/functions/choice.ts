import { MAX_TEXT } from '../bounds';
import { equals } from '../compare';
import { miss, spend } from '../context';
import { textSteps, toNumber } from '../values';
import { argument, boundedText, givenText, type FormulaFunction } from './define';

export const CHOICE_FUNCTIONS: FormulaFunction[] = [
  {
    name: 'if',
    group: 'choice',
    usage: 'if(condition, then, else?)',
    description: 'One value when the condition holds, else the other.',
    least: 2,
    most: 3,
    takes: ['boolean'],
    gives: 'any',
    make(args) {
      const [test, then, other] = [argument(args, 0), argument(args, 1), argument(args, 2)];
      return (c) => (test(c) === true ? then(c) : other(c));
    },
  },
  {
    name: 'plural',
    group: 'choice',
    usage: 'plural(number, one, many)',
    description: 'The word for one or for many; # becomes the number.',
    least: 3,
    most: 3,
    takes: ['number', 'text', 'text'],
    gives: 'text',
    make(args, call) {
      const [of, one, many] = [argument(args, 0), argument(args, 1), argument(args, 2)];
      return (c) => {
        const n = toNumber(of(c));
        if (n === undefined) return miss(c, call, '“plural” needs a number.');
        const chosen = givenText((c.locale.isOne(n) ? one : many)(c), c) ?? '';
        if (!chosen.includes('#')) return chosen;
        const figure = c.locale.number(n);
        // Checked before it is put in: the text could be far larger than memory.
        if ((chosen.split('#').length - 1) * figure.length > MAX_TEXT)
          return miss(c, call, 'The text gets too long.');
        spend(c, textSteps(chosen.length));
        return boundedText(chosen.replaceAll('#', figure));
      };
    },
  },
  {
    name: 'one_of',
    group: 'choice',
    usage: 'one_of(value, when, then, …, else?)',
    description: 'What belongs to the first “when” that equals the value.',
    least: 3,
    most: 200,
    gives: 'any',
    make(args) {
      const of = argument(args, 0);
      const pairs = Math.floor((args.length - 1) / 2);
      const other = args.length % 2 === 0 ? argument(args, args.length - 1) : () => undefined;
      return (c) => {
        const value = of(c);
        for (let i = 0; i < pairs; i++) {
          const when = argument(args, 1 + 2 * i)(c);
          if (equals(value, when, c)) return argument(args, 2 + 2 * i)(c);
        }
        return other(c);
      };
    },
  },
];
