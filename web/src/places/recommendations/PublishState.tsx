import { Button, Group } from '@mantine/core';
import type { Rule } from '@carafe/core/recommend';
import type { RuleEdit } from './useRule';
import classes from './Recommendations.module.css';

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
    return <span className="quiet">Published. Emails use the rule as it is here.</span>;
  return (
    <Group gap={8}>
      <p className={classes.draft}>
        {isUsed
          ? 'Changed since it was published. Emails still use the published rule.'
          : 'Changed since it was published.'}
      </p>
      <Button size="compact-xs" onClick={() => void publish()}>
        Publish
      </Button>
      <Button
        size="compact-xs"
        variant="subtle"
        onClick={() => {
          const { name, label } = rule;
          void put({ ...published, name, label });
        }}
      >
        Put back what is published
      </Button>
    </Group>
  );
}
