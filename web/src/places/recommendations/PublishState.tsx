import { Button, Group } from '@mantine/core';
import type { Rule } from '@carafe/core/recommend';
import type { RuleEdit } from './useRule';
import classes from './Recommendations.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('recommendations');

/** Whether emails use something else than the draft. */
export const differs = (draft: Rule, published: Rule): boolean =>
  JSON.stringify(Object.entries(draft).sort()) !== JSON.stringify(Object.entries(published).sort());

interface Props {
  published: Rule;
  edit: RuleEdit;
  /** By templates. */
  isUsed: boolean;
}

/** Says whether emails use the rule as it stands here, and lets them. */
export function PublishState({ published, edit: { rule, put, publish }, isUsed }: Props) {
  if (!differs(rule, published))
    return <span className="quiet">{t('publishedEmailsUseTheRuleAs')}</span>;
  return (
    <Group gap={8}>
      <p className={classes.draft}>
        {isUsed ? t('changedSinceItWasPublishedEmails') : t('changedSinceItWasPublished')}
      </p>
      <Button size="compact-xs" onClick={() => void publish()}>
        {t('publish')}
      </Button>
      <Button
        size="compact-xs"
        variant="subtle"
        onClick={() => {
          const { name, label } = rule;
          void put({ ...published, name, label });
        }}
      >
        {t('putBackWhatIsPublished')}
      </Button>
    </Group>
  );
}
