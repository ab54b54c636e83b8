import { Button, Progress } from '@mantine/core';
import type { StoredRule } from '@carafe/contract';
import { byCategory, evenness, STEPS, type Figures, type Rule } from '@carafe/core/recommend';
import { counted, figure } from '@carafe/core/words';
import { Lorenz } from './Lorenz';
import { NamedPeople } from './NamedPeople';
import { useFigures, type FiguresSoFar } from './useFigures';
import classes from './Recommendations.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('recommendations');

/** A rule over the whole audience: which step gives how much, who gets too little, what is shown and what never. */
export function Audience({
  stored: { id, rule },
  onPerson,
}: {
  stored: StoredRule;
  /** Shows what somebody gets, by their address. */
  onPerson: (address: string) => void;
}) {
  const { soFar, problem, start, stop } = useFigures(id);
  return (
    <section aria-label={t('everybody')} className={classes.part}>
      <div className={classes.title}>
        <h2>{t('forEverybody')}</h2>
        {soFar?.running ? (
          <Button variant="default" size="compact-xs" onClick={stop}>
            {t('stop')}
          </Button>
        ) : (
          <Button variant="default" size="compact-xs" onClick={() => void start()}>
            {soFar ? t('countAgain') : t('count')}
          </Button>
        )}
        <span className="quiet" role="status">
          {soFar
            ? t('peopleOfPeople2', {
                people: figure(soFar.figures.people),
                people2: counted(soFar.people, 'person', 'people'),
              })
            : t('howOftenEachStepIsUsed')}
        </span>
      </div>
      {soFar?.running && (
        <Progress
          value={(100 * soFar.figures.people) / Math.max(1, soFar.people)}
          size="sm"
          aria-label={t('counted')}
        />
      )}
      {problem && <p role="alert">{problem}</p>}
      {soFar && <Told soFar={soFar} rule={rule} onPerson={onPerson} />}
    </section>
  );
}

const share = (part: number, all: number) => (all === 0 ? 0 : Math.round((100 * part) / all));

function Told({
  soFar: { figures, pool },
  rule,
  onPerson,
}: {
  soFar: FiguresSoFar;
  rule: Rule;
  onPerson: (address: string) => void;
}) {
  const { who } = figures;
  const counts = pool.map(({ sku }) => figures.shown[sku] ?? 0);
  const { ever, curve, gini } = evenness(counts);
  const inOrder = [...pool].sort(
    (a, b) => (figures.shown[b.sku] ?? 0) - (figures.shown[a.sku] ?? 0),
  );
  const categories = byCategory(
    pool.map((one, place) => ({ ...one, place, record: one as never, number: undefined })),
    ({ record }) => (record as unknown as { category: string }).category || t('noCategory'),
    figures.shown,
  );
  const never = inOrder.filter(({ sku }) => !figures.shown[sku]);
  return (
    <div className={classes.figures}>
      <div>
        <StepBars figures={figures} rule={rule} onPerson={onPerson} />
        <ul className={classes.facts}>
          <li>
            <NamedPeople
              count={figures.fewer}
              words={t('getFewerThanNumberWhich', {
                number: rule.number,
                which: figures.none > 0 ? t('noneOfThemNone', { none: figure(figures.none) }) : '',
              })}
              addresses={[...new Set([...who.none, ...who.fewer])]}
              onPerson={onPerson}
            />
          </li>
          {rule.steps.length > 1 && (
            <li>
              <NamedPeople
                count={figures.last_only}
                words={t('getPicksFromTheLastStep')}
                addresses={who.last_only}
                onPerson={onPerson}
              />
            </li>
          )}
          <li>
            <strong>{figure(ever)}</strong> {t('of')} {counted(pool.length, 'product')}{' '}
            {t('areShownToSomeone')}
          </li>
        </ul>
      </div>
      <Lorenz curve={curve} gini={gini} />
      <div>
        <div className="label">{t('shownMost')}</div>
        <ol className={classes.short}>
          {inOrder
            .filter(({ sku }) => figures.shown[sku])
            .slice(0, 5)
            .map(({ sku, name }) => (
              <li key={sku}>
                {name}{' '}
                <span className="quiet">
                  {t('figurePeople', { figure: figure(figures.shown[sku] ?? 0) })}
                </span>
              </li>
            ))}
        </ol>
        <div className="label">{t('neverShown')}</div>
        <p className={classes.short}>
          {never.length === 0
            ? t('none')
            : `${never
                .slice(0, 6)
                .map(({ name }) => name)
                .join(
                  ', ',
                )}${never.length > 6 ? t('andNumberMore', { number: figure(never.length - 6) }) : ''}`}
        </p>
      </div>
      <table className={classes.categories}>
        <thead>
          <tr>
            <th scope="col">{t('category')}</th>
            <th scope="col">{t('productsShown')}</th>
            <th scope="col">{t('picks')}</th>
          </tr>
        </thead>
        <tbody>
          {categories.map(({ category, products, ever: shown, picks }) => (
            <tr key={category}>
              <th scope="row">{category}</th>
              <td>{t('shownOfProducts', { shown: figure(shown), products: figure(products) })}</td>
              <td>{share(picks, figures.picks)} %</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Why a step gives nobody anything. */
const sayUnused = ({ fewer }: Figures, i: number): string =>
  i > 0 && fewer === 0 ? t('givesNothingToAnybodyTheSteps') : t('givesNothingToAnybodyItFinds');

function StepBars({
  figures,
  rule,
  onPerson,
}: {
  figures: Figures;
  rule: Rule;
  onPerson: (address: string) => void;
}) {
  return (
    <ol className={classes.bars}>
      {rule.steps.map(({ step }, i) => {
        const part = share(figures.steps[i] ?? 0, figures.picks);
        return (
          <li key={i}>
            <NamedPeople
              words={STEPS[step.kind].name}
              addresses={figures.who.steps[i] ?? []}
              onPerson={onPerson}
            />
            <span className={classes.bar}>
              <span style={{ width: `${part}%` }} />
            </span>
            <span className={classes.percent}>
              {part === 0 && (figures.steps[i] ?? 0) > 0 ? '< 1' : part} %
            </span>
            {figures.people > 0 && (figures.steps[i] ?? 0) === 0 && (
              <p className={classes.starved}>{sayUnused(figures, i)}</p>
            )}
          </li>
        );
      })}
    </ol>
  );
}
