import { useState } from 'react';
import { NumberInput, Select, Switch, TagsInput, TextInput } from '@mantine/core';
import { useForm } from '@mantine/form';
import type { MailSettings } from '@carafe/contract';
import type { Ans } from '../../app/api';
import { messageOf } from '../../app/ask';
import { mailApi } from '../../app/mailApi';
import { FormFoot } from '../../parts/FormFoot';
import { SideSheet } from '../../parts/SideSheet';
import { formOf, goesLive, problemsOf, settingsOf, type MailForm } from './mailForm';
import { ServerFields } from './ServerFields';
import classes from './Mailbox.module.css';

const IN_DOUBT: { value: MailSettings['in_doubt']; label: string }[] = [
  { value: 'ask', label: 'somebody is asked, in the outbox' },
  { value: 'sent', label: 'it counts as sent' },
  { value: 'again', label: 'it is sent once more' },
];

/** How mails leave: by what, to whom, how fast, what is counted, and how long they are kept. */
export function MailSettingsForm({ onClose }: { onClose: () => void }) {
  const { data } = mailApi.useMailSettingsQuery();
  if (!data) return null;
  return <Form known={data} onClose={onClose} />;
}

function Form({ known, onClose }: { known: Ans<'mailSettings'>; onClose: () => void }) {
  const { settings: before, version, password, dkim_key, self } = known;
  const [isAsking, setAsking] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [change, changing] = mailApi.useChangeMailSettingsMutation();
  const form = useForm<MailForm>({
    initialValues: formOf(before),
    validate: problemsOf,
    onValuesChange: () => setAsking(false),
  });
  const { values, getInputProps } = form;
  const save = async () => {
    setProblem(null);
    if (goesLive(before, values) && !isAsking) {
      setAsking(true);
      return;
    }
    const { error } = await change({ version, settings: settingsOf(values) });
    if (error) setProblem(messageOf(error));
    else onClose();
  };
  return (
    <SideSheet title="How mails leave" width={500} isForm onClose={onClose}>
      <form
        noValidate
        className={classes.settings}
        onSubmit={form.onSubmit(
          () => void save(),
          // The field that is wrong may be out of sight.
          (errors) => form.getInputNode(Object.keys(errors)[0] ?? '')?.focus(),
        )}
      >
        <ServerFields {...{ form, password }} />
        <Switch
          label="Test-only"
          description="Whatever is sent goes to the stand-in mailbox, and to nobody else. Only so can the clock be moved."
          {...getInputProps('test_only', { type: 'checkbox' })}
        />
        <TagsInput
          label="Tests may go to"
          description="Nowhere else. Enter adds an address."
          {...getInputProps('test_addresses')}
        />

        <h3>Sending</h3>
        <NumberInput
          label="Mails a minute, at most"
          description="0 for as many as the mail server takes."
          min={0}
          {...getInputProps('per_minute')}
        />
        <Select
          label="If a mail was handed to the mail server, and no answer came"
          allowDeselect={false}
          data={IN_DOUBT}
          {...getInputProps('in_doubt')}
        />
        <Switch
          label="Sign mails (DKIM)"
          description={
            dkim_key
              ? 'With the key in the file that CARAFE_DKIM_KEY_FILE names.'
              : 'The key comes from a file that CARAFE_DKIM_KEY_FILE names; there is none yet.'
          }
          {...getInputProps('isSigned', { type: 'checkbox' })}
        />
        {values.isSigned && (
          <div className={classes.pair}>
            <TextInput
              label="Domain"
              placeholder="shop.example"
              {...getInputProps('dkim.domain')}
            />
            <TextInput label="Selector" placeholder="mail" {...getInputProps('dkim.selector')} />
          </div>
        )}

        <h3>Links and counting</h3>
        <TextInput
          label="Address at which people reach Carafe"
          description="Links to unsubscribe, to view a mail and those that are counted lead there."
          placeholder={self}
          {...getInputProps('public_url')}
        />
        <NumberInput
          label="Links work for so many days"
          description="Unsubscribing always works."
          min={1}
          {...getInputProps('links_days')}
        />
        <Switch
          label="Count clicks"
          description="Of people who agreed to marketing, by a redirect."
          {...getInputProps('count_clicks', { type: 'checkbox' })}
        />
        <Switch
          label="Count opens"
          description="Of people who agreed to marketing, by a picture of one pixel."
          {...getInputProps('count_opens', { type: 'checkbox' })}
        />

        <h3>Keeping</h3>
        <NumberInput
          label="Sent mails are kept so many days, to the byte"
          min={1}
          {...getInputProps('keep_days')}
        />
        {isAsking && (
          <p role="alert" className={classes.live}>
            From now on mails go to people, those that wait in the outbox as well.
            {values.public_url.trim() === '' &&
              ` Their links to unsubscribe lead to ${self}, which only this machine reaches.`}
          </p>
        )}
        <FormFoot
          problem={problem}
          submit={isAsking ? 'Let mails go to people' : 'Save'}
          busy={changing.isLoading}
          onCancel={onClose}
        />
      </form>
    </SideSheet>
  );
}
