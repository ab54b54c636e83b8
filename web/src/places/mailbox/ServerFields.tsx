import { Button, NumberInput, SegmentedControl, Switch, TextInput } from '@mantine/core';
import type { UseFormReturnType } from '@mantine/form';
import { messageOf } from '../../app/ask';
import { mailApi } from '../../app/mailApi';
import { settingsOf, type MailForm } from './mailForm';
import classes from './Mailbox.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('mailbox');

interface Props {
  form: UseFormReturnType<MailForm>;
  /** Whether a password is known. */
  password: boolean;
}

/** Where mails leave: into the stand-in mailbox, or by a mail server of one's own, which can be tried. */
export function ServerFields({ form, password }: Props) {
  const [tryServer, { data, error, isLoading }] = mailApi.useTryMailServerMutation();
  const tryOut = async () => {
    if (!form.validate().hasErrors) await tryServer(settingsOf(form.values));
  };
  return (
    <>
      <SegmentedControl
        aria-label={t('mailServer')}
        data={[
          { value: 'mailbox', label: t('standInMailbox') },
          { value: 'smtp', label: t('yourMailServer') },
        ]}
        {...form.getInputProps('server.kind')}
      />
      {form.values.server.kind === 'smtp' && (
        <>
          <div className={classes.pair}>
            <TextInput
              label={t('host')}
              placeholder="smtp.shop.example"
              {...form.getInputProps('server.host')}
            />
            <NumberInput
              label={t('port')}
              min={1}
              max={65_535}
              {...form.getInputProps('server.port')}
            />
          </div>
          <Switch
            label={t('tLSFromTheStart')}
            {...form.getInputProps('server.tls', { type: 'checkbox' })}
          />
          <TextInput
            label={t('user')}
            description={password ? t('aPasswordIsSetByCARAFE') : t('setThePasswordWithCARAFESMTP')}
            {...form.getInputProps('server.user')}
          />
          <Button
            variant="default"
            size="compact-sm"
            className={classes.try ?? ''}
            loading={isLoading}
            onClick={() => void tryOut()}
          >
            {t('tryIt')}
          </Button>
          {(data ?? error) && (
            <p role="status" className={classes.tried}>
              {data ? data.message : messageOf(error)}
            </p>
          )}
        </>
      )}
    </>
  );
}
