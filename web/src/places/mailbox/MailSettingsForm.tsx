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
  { value: 'ask', label: 'ask in the outbox' },
  { value: 'sent', label: 'count it as sent' },
  { value: 'again', label: 'send it again' },
];

/** Email settings: by what, to whom, how fast, what is counted, and how long they are kept. */
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
    <SideSheet title="Email settings" width={500} isForm onClose={onClose}>
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
          description="Everything that is sent goes to the stand-in mailbox and to nobody else. The clock can only be moved in this mode."
          {...getInputProps('test_only', { type: 'checkbox' })}
        />
        <TagsInput
          label="Addresses for tests"
          description="Tests are sent to these addresses only. Press Enter to add one."
          {...getInputProps('test_addresses')}
        />

        <h3>Sending</h3>
        <NumberInput
          label="Emails per minute, at most"
          description="0 means as many as the mail server accepts."
          min={0}
          {...getInputProps('per_minute')}
        />
        <Select
          label="If the mail server did not answer after taking an email"
          allowDeselect={false}
          data={IN_DOUBT}
          {...getInputProps('in_doubt')}
        />
        <Switch
          label="Sign emails (DKIM)"
          description={
            dkim_key
              ? 'Uses the key in the file named by CARAFE_DKIM_KEY_FILE.'
              : 'Needs a key: set CARAFE_DKIM_KEY_FILE to its file.'
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
          label="Public address of Carafe"
          description="Used in links to unsubscribe, links to view the email in a browser, and counted links."
          placeholder={self}
          {...getInputProps('public_url')}
        />
        <NumberInput
          label="Links work for (days)"
          description="Unsubscribe links always work."
          min={1}
          {...getInputProps('links_days')}
        />
        <Switch
          label="Count clicks"
          description="Only of people who agreed to marketing. Links go through a redirect."
          {...getInputProps('count_clicks', { type: 'checkbox' })}
        />
        <Switch
          label="Count opens"
          description="Only of people who agreed to marketing. Adds a picture of one pixel."
          {...getInputProps('count_opens', { type: 'checkbox' })}
        />

        <h3>Keeping</h3>
        <NumberInput label="Keep sent emails for (days)" min={1} {...getInputProps('keep_days')} />
        {isAsking && (
          <p role="alert" className={classes.live}>
            From now on, emails go to real people, including those waiting in the outbox.
            {values.public_url.trim() === '' &&
              ` Their unsubscribe links lead to ${self}, which only this machine can reach.`}
          </p>
        )}
        <FormFoot
          problem={problem}
          submit={isAsking ? 'Send to real people' : 'Save'}
          busy={changing.isLoading}
          onCancel={onClose}
        />
      </form>
    </SideSheet>
  );
}
