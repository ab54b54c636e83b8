import { useState, type FormEvent } from 'react';
import { NumberInput, Select } from '@mantine/core';
import { ShopRules } from '@carafe/core/occasion';
import { messageOf } from '../../app/ask';
import { occasionsApi } from '../../app/occasionsApi';
import { FormFoot } from '../../parts/FormFoot';
import { SideSheet } from '../../parts/SideSheet';
import { wordsOf } from '../../words';

const t = wordsOf('occasions');

type Name = Exclude<keyof ShopRules, 'one_cause'>;
const QUESTIONS: readonly { name: Name; label: string; description: string }[] = [
  {
    name: 'quiet_minutes',
    label: t('aCartCountsAsAbandonedAfter'),
    description: t('waitsInAnOccasionBeginAfter'),
  },
  {
    name: 'give_up_days',
    label: t('anAbandonedCartIsForgottenAfter'),
    description: t('noMoreEmailsAreSentAbout'),
  },
  {
    name: 'most_a_day',
    label: t('marketingEmailsPerPersonAndDay'),
    description: t('acrossAllOccasions0MeansNo'),
  },
  {
    name: 'most_a_week',
    label: t('marketingEmailsPerPersonAndWeek'),
    description: t('acrossAllOccasions0MeansNo'),
  },
  {
    name: 'most_an_hour',
    label: t('peopleWhoMayEnterOneOccasion'),
    description: t('beyondThatItsEmailsAreHeld'),
  },
];

/** What applies to all occasions of a shop. */
export function RulesSheet({
  shop,
  rules: first,
  version,
  onClose,
}: {
  shop: string;
  rules: ShopRules;
  /** Of the rules as they were read. */
  version: string;
  onClose: () => void;
}) {
  const [rules, setRules] = useState(first);
  const [problem, setProblem] = useState<string | null>(null);
  const [change, changing] = occasionsApi.useChangeMailRulesMutation();
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const read = ShopRules.safeParse(rules);
    if (!read.success) {
      setProblem(read.error.issues[0]?.message ?? null);
      return;
    }
    const { error } = await change({ shop, version, rules: read.data });
    if (error) setProblem(messageOf(error));
    else onClose();
  };
  return (
    <SideSheet title={t('forAllOccasions')} width={460} isForm onClose={onClose}>
      <form noValidate onSubmit={(event) => void submit(event)}>
        {QUESTIONS.map(({ name, label, description }) => (
          <NumberInput
            key={name}
            mb={12}
            min={0}
            {...{ label, description }}
            value={rules[name]}
            onChange={(n) => typeof n === 'number' && setRules({ ...rules, [name]: n })}
          />
        ))}
        <Select
          label={t('ifOneEventSuchAsAn')}
          allowDeselect={false}
          data={[
            { value: 'all', label: t('allOfThemRun') },
            { value: 'first', label: t('onlyTheOneWithTheHighest') },
          ]}
          value={rules.one_cause}
          onChange={(to) => to && setRules({ ...rules, one_cause: to as 'all' | 'first' })}
        />
        <FormFoot
          problem={problem}
          submit={t('save')}
          busy={changing.isLoading}
          onCancel={onClose}
        />
      </form>
    </SideSheet>
  );
}
