import { Button, NumberInput, SegmentedControl, Switch, TextInput } from '@mantine/core';
import type { UseFormReturnType } from '@mantine/form';
import { messageOf } from '../../app/ask';
import { mailApi } from '../../app/mailApi';
import { settingsOf, type MailForm } from './mailForm';
import classes from './Mailbox.module.css';

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
        aria-label="Mail server"
        data={[
          { value: 'mailbox', label: 'Stand-in mailbox' },
          { value: 'smtp', label: 'Your mail server' },
        ]}
        {...form.getInputProps('server.kind')}
      />
      {form.values.server.kind === 'smtp' && (
        <>
          <div className={classes.pair}>
            <TextInput
              label="Host"
              placeholder="smtp.shop.example"
              {...form.getInputProps('server.host')}
            />
            <NumberInput label="Port" min={1} max={65_535} {...form.getInputProps('server.port')} />
          </div>
          <Switch
            label="TLS from the start"
            {...form.getInputProps('server.tls', { type: 'checkbox' })}
          />
          <TextInput
            label="User"
            description={
              password
                ? 'A password is set by CARAFE_SMTP_PASSWORD or its file.'
                : 'Set the password with CARAFE_SMTP_PASSWORD, or name its file in CARAFE_SMTP_PASSWORD_FILE.'
            }
            {...form.getInputProps('server.user')}
          />
          <Button
            variant="default"
            size="compact-sm"
            className={classes.try ?? ''}
            loading={isLoading}
            onClick={() => void tryOut()}
          >
            Try it
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
