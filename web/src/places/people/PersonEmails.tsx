import { Link } from 'react-router';
import type { OutboxItem } from '@carafe/contract';
import { peopleApi } from '../../app/peopleApi';
import { momentOf } from '../../parts/moment';
import { STATE_WORDS } from '../outbox/states';
import { wordsOf } from '../../words';

const t = wordsOf('people');

/** When an email went, was opened and clicked, or why it did not go. */
function whatCameOfIt({ state, reason, sent_at, next_at, opened_at, clicked_at }: OutboxItem) {
  if (sent_at !== null)
    return [
      t('sentSentAt', { sent_at: momentOf(sent_at) }),
      state === 'bounced' && (reason ?? 'bounced'),
      opened_at !== null && 'opened',
      clicked_at !== null && 'clicked',
    ]
      .filter(Boolean)
      .join(', ');
  if (state === 'waiting' || state === 'ready')
    return t('dueNextAt', { next_at: momentOf(next_at) });
  return `${STATE_WORDS[state]}${reason === null ? '' : `: ${reason}`}`;
}

/** The emails a person received and those they did not, with the reason, the latest first. */
export function PersonEmails({ shop, email }: { shop: string; email: string }) {
  const { data } = peopleApi.usePersonEmailsQuery({ shop, email });
  if (!data) return null;
  const all = `/outbox?shop=${shop}&email=${encodeURIComponent(email)}`;
  return (
    <section>
      <h3>{t('emails')}</h3>
      {data.mails.length === 0 && <p className="quiet">{t('noEmailsYet')}</p>}
      <ol>
        {data.mails.map((mail) => (
          <li key={mail.id}>
            <Link to={`/outbox?shop=${shop}&mail=${mail.id}`}>
              {mail.subject ?? mail.template_name}
            </Link>
            <div className="quiet">{whatCameOfIt(mail)}</div>
          </li>
        ))}
      </ol>
      {data.total > data.mails.length && (
        <Link to={all}>{t('allTotalEmails', { total: data.total.toLocaleString('en-GB') })}</Link>
      )}
    </section>
  );
}
