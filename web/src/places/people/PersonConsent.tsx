import { Button } from '@mantine/core';
import { nanoid } from 'nanoid';
import { peopleApi } from '../../app/peopleApi';
import { useNow } from '../../app/useNow';
import { momentOf } from '../../parts/moment';
import { notifyFailure, notifyRefused } from '../../parts/notify';
import classes from '../sources/Source.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('people');

interface Props {
  shop: string;
  email: string;
  person: Record<string, unknown>;
  /** The page where the person chooses what to get. */
  preferences: string | null;
}

/** Whether a person agreed to newsletters, with the way to change it for them. */
export function PersonConsent({ shop, email, person, preferences }: Props) {
  const [say, { isLoading }] = peopleApi.useSayConsentMutation();
  const now = useNow();
  const agrees = person['consent'] === true;
  const { consent_at: since, consent_how: how } = person;
  const change = async () => {
    const event = { id: nanoid(), shop, email, at: now.toISOString() };
    const { data, error } = await say({ ...event, consent: !agrees });
    const refused = data?.refused[0];
    if (error) notifyFailure(error);
    else if (refused) notifyRefused(t('nothingWasChanged'), refused.message);
  };
  const details = [
    typeof since === 'string' && t('sinceSince', { since: momentOf(since) }),
    typeof how === 'string' && how,
  ].filter(Boolean);
  return (
    <section>
      <h3>{t('newsletters')}</h3>
      <p>
        {agrees ? t('hasAgreedToNewsletters') : t('getsNoNewslettersOnlyEmailsAbout')}
        {details.length > 0 && <span className="quiet"> ({details.join(', ')})</span>}
      </p>
      <div className={classes.actions}>
        <Button
          size="compact-sm"
          variant="default"
          loading={isLoading}
          onClick={() => void change()}
        >
          {agrees ? t('unsubscribe') : t('recordConsent')}
        </Button>
        {preferences !== null && (
          <a href={preferences} target="_blank" rel="noreferrer">
            {t('preferencesPage')}
          </a>
        )}
      </div>
    </section>
  );
}
