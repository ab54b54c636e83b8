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
import { wordsOf } from '../../words';

const t = wordsOf('mailbox');

const IN_DOUBT: { value: MailSettings['in_doubt']; label: string }[] = [
  { value: 'ask', label: t('askInTheOutbox') },
  { value: 'sent', label: t('countItAsSent') },
  { value: 'again', label: t('sendItAgain') },
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
    <SideSheet title={t('emailSettings')} width={500} isForm onClose={onClose}>
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
          label={t('testOnly')}
          description={t('everythingThatIsSentGoesTo')}
          {...getInputProps('test_only', { type: 'checkbox' })}
        />
        <TagsInput
          label={t('addressesForTests')}
          description={t('testsAreSentToTheseAddresses')}
          {...getInputProps('test_addresses')}
        />

        <h3>{t('sending')}</h3>
        <NumberInput
          label={t('emailsPerMinuteAtMost')}
          description={t('n0MeansAsManyAsThe')}
          min={0}
          {...getInputProps('per_minute')}
        />
        <Select
          label={t('ifTheMailServerDidNot')}
          allowDeselect={false}
          data={IN_DOUBT}
          {...getInputProps('in_doubt')}
        />
        <Switch
          label={t('signEmailsDKIM')}
          description={dkim_key ? t('usesTheKeyInTheFile') : t('needsAKeySetCARAFEDKIM')}
          {...getInputProps('isSigned', { type: 'checkbox' })}
        />
        {values.isSigned && (
          <div className={classes.pair}>
            <TextInput
              label={t('domain')}
              placeholder="shop.example"
              {...getInputProps('dkim.domain')}
            />
            <TextInput
              label={t('selector')}
              placeholder={t('mail')}
              {...getInputProps('dkim.selector')}
            />
          </div>
        )}

        <h3>{t('linksAndCounting')}</h3>
        <TextInput
          label={t('publicAddressOfCarafe')}
          description={t('usedInLinksToUnsubscribeLinks')}
          placeholder={self}
          {...getInputProps('public_url')}
        />
        <NumberInput
          label={t('linksWorkForDays')}
          description={t('unsubscribeLinksAlwaysWork')}
          min={1}
          {...getInputProps('links_days')}
        />
        <Switch
          label={t('countClicks')}
          description={t('onlyOfPeopleWhoAgreedTo')}
          {...getInputProps('count_clicks', { type: 'checkbox' })}
        />
        <Switch
          label={t('countOpens')}
          description={t('onlyOfPeopleWhoAgreedTo2')}
          {...getInputProps('count_opens', { type: 'checkbox' })}
        />

        <h3>{t('keeping')}</h3>
        <NumberInput label={t('keepSentEmailsForDays')} min={1} {...getInputProps('keep_days')} />
        {isAsking && (
          <p role="alert" className={classes.live}>
            {t('fromNowOnEmailsGoTo')}
            {values.public_url.trim() === '' && t('theirUnsubscribeLinksLeadToSelf', { self })}
          </p>
        )}
        <FormFoot
          problem={problem}
          submit={isAsking ? t('sendToRealPeople') : t('save')}
          busy={changing.isLoading}
          onCancel={onClose}
        />
      </form>
    </SideSheet>
  );
}
