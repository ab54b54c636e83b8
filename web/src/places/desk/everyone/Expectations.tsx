import { useState } from 'react';
import { Button, TextInput, UnstyledButton } from '@mantine/core';
import { parsedFormula } from '@carafe/core/formula';
import { sayFormula } from '@carafe/core/sentence';
import type { Template } from '@carafe/core/template';
import type { Survey } from '@carafe/core/variant';
import { useAppSelector } from '../../../app/store';
import { counted } from '@carafe/core/words';
import { ConditionField } from '../../../parts/sentence/ConditionField';
import { ENDPOINTS } from '@carafe/contract';
import { ask, messageOf } from '../../../app/ask';
import { useEdit } from '../useEdit';
import { useLookAt } from './useLookAt';
import classes from './Everyone.module.css';
import { mailShape } from './mailShape';
import { useLoopScope } from '../useNodeScope';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

/** What filling everybody says of an expectation, in words. */
function said(formula: string, broken: Survey['broken'][number] | undefined): string {
  if (!parsedFormula(formula).ok) return t('notCheckedTheFormulaCannotBe');
  if (!broken) return t('notCheckedYet');
  return broken.people === 0
    ? t('trueForEverybody')
    : t('notTrueForPeople', { people: counted(broken.people, 'person', 'people') });
}

/** Formulas that must hold for everybody’s mail. */
export function Expectations({ survey }: { survey: Survey | null }) {
  const template = useAppSelector((s) => s.desk.template) as Template;
  const { change } = useEdit();
  const lookAt = useLookAt();
  const scope = useLoopScope([]);
  const [offered, setOffered] = useState<string[] | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const own = template.expectations ?? [];
  const put = (label: string, next: NonNullable<Template['expectations']>, key?: string) =>
    change(
      label,
      (draft) => {
        if (next.length === 0) delete draft.expectations;
        else draft.expectations = next;
      },
      key,
    );
  const propose = async () => {
    setProblem(null);
    try {
      const { formulas } = await ask(ENDPOINTS.proposeExpectations, {
        params: { shop: template.shop },
        body: { template },
      });
      setOffered(formulas.filter((formula) => !own.some((one) => one.formula === formula)));
    } catch (error) {
      setProblem(messageOf(error));
    }
  };
  return (
    <section aria-label={t('expectations')}>
      <p className="quiet">{t('whatMustBeTrueForEvery')}</p>
      <ul className={classes.findings}>
        {own.map(({ formula, name }, i) => {
          const broken = survey?.broken[i];
          const rewrite = (given: object, label: string, key: string) =>
            put(
              label,
              own.map((one, at) => (at === i ? { ...one, ...given } : one)),
              `${key} ${i}`,
            );
          return (
            <li key={i} className={classes.expectation}>
              <ConditionField
                label={t('expectationI', { i: i + 1 })}
                now={null}
                value={formula}
                shape={mailShape(scope.shape)}
                frames={scope.frames}
                onChange={(value) =>
                  rewrite({ formula: value }, 'Change an expectation', 'expectation')
                }
              />
              <TextInput
                size="xs"
                variant="unstyled"
                aria-label={t('nameOfExpectationI', { i: i + 1 })}
                placeholder={t('nameShownWhenItIsNot')}
                maxLength={200}
                value={name ?? ''}
                onChange={({ currentTarget: { value } }) =>
                  rewrite({ name: value === '' ? undefined : value }, 'Name an expectation', 'name')
                }
              />
              <span className={broken && broken.people > 0 ? classes.broken : 'quiet'}>
                {said(formula, broken)}{' '}
                {broken?.persons.slice(0, 3).map((person, at) => (
                  <UnstyledButton
                    key={person}
                    className={classes.act}
                    onClick={() => lookAt(person)}
                  >
                    {at === 0 ? t('viewOne') : t('another')}
                  </UnstyledButton>
                ))}
                <UnstyledButton
                  className={classes.act}
                  onClick={() =>
                    put(
                      'Delete an expectation',
                      own.filter((_, at) => at !== i),
                    )
                  }
                >
                  {t('delete')}
                </UnstyledButton>
              </span>
            </li>
          );
        })}
      </ul>
      <Button
        variant="default"
        size="compact-sm"
        mr={8}
        onClick={() =>
          put('Add an expectation', [...own, { formula: 'length(mail.subject) <= 60' }])
        }
      >
        {t('addAnExpectation')}
      </Button>
      <Button variant="subtle" size="compact-sm" onClick={() => void propose()}>
        {t('suggestWhatIsTrueToday')}
      </Button>
      {problem && <p role="alert">{problem}</p>}
      {offered && (
        <ul className={classes.findings} aria-label={t('proposed')}>
          {offered.length === 0 && <li className="quiet">{t('thereIsNothingMoreToSuggest')}</li>}
          {offered.map((formula) => (
            <li key={formula} className={classes.offer}>
              <span title={formula}>{sayFormula(formula) ?? <code>{formula}</code>}</span>
              <Button
                size="compact-xs"
                variant="default"
                onClick={() => {
                  put('Add an expectation', [...own, { formula }]);
                  setOffered(offered.filter((one) => one !== formula));
                }}
              >
                {t('add')}
              </Button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
