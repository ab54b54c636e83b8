import { useState, type FormEvent } from 'react';
import { NumberInput, Select } from '@mantine/core';
import { ShopRules } from '@carafe/core/occasion';
import { messageOf } from '../../app/ask';
import { occasionsApi } from '../../app/occasionsApi';
import { FormFoot } from '../../parts/FormFoot';
import { SideSheet } from '../../parts/SideSheet';

type Name = Exclude<keyof ShopRules, 'one_cause'>;
const QUESTIONS: readonly { name: Name; label: string; description: string }[] = [
  {
    name: 'quiet_minutes',
    label: 'A cart counts as abandoned after (minutes without activity)',
    description: 'Waits in an occasion begin after this time.',
  },
  {
    name: 'give_up_days',
    label: 'An abandoned cart is forgotten after (days)',
    description: 'No more emails are sent about it.',
  },
  {
    name: 'most_a_day',
    label: 'Marketing emails per person and day, at most',
    description: 'Across all occasions. 0 means no limit.',
  },
  {
    name: 'most_a_week',
    label: 'Marketing emails per person and week, at most',
    description: 'Across all occasions. 0 means no limit.',
  },
  {
    name: 'most_an_hour',
    label: 'People who may enter one occasion within an hour',
    description: 'Beyond that, its emails are held until you approve them in the outbox.',
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
    <SideSheet title="For all occasions" width={460} isForm onClose={onClose}>
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
          label="If one event, such as an order, starts several occasions"
          allowDeselect={false}
          data={[
            { value: 'all', label: 'all of them run' },
            { value: 'first', label: 'only the one with the highest priority' },
          ]}
          value={rules.one_cause}
          onChange={(to) => to && setRules({ ...rules, one_cause: to as 'all' | 'first' })}
        />
        <FormFoot problem={problem} submit="Save" busy={changing.isLoading} onCancel={onClose} />
      </form>
    </SideSheet>
  );
}
