import { useState } from 'react';
import { Button, SegmentedControl } from '@mantine/core';
import { Link } from 'react-router';
import type { OutboxMail } from '@carafe/contract';
import type { Trail } from '@carafe/core/render';
import { messageOf } from '../../app/ask';
import { outboxApi } from '../../app/occasionsApi';
import { AskedValues } from '../../parts/AskedValues';
import { lookedAt } from '../../parts/localise';
import { notifyFailure } from '../../parts/notify';
import { SideSheet } from '../../parts/SideSheet';
import { TrailLine } from '../../parts/TrailLine';
import { StateMark } from './StateMark';
import { useChangeMails, type MailChange } from './useChangeMails';
import { momentOf } from '../../parts/moment';
import classes from './Outbox.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('outbox');

type View = 'mail' | 'text' | 'headers' | 'why' | 'links';
const VIEWS: { value: View; label: string }[] = [
  { value: 'mail', label: t('email') },
  { value: 'text', label: t('text') },
  { value: 'why', label: t('why') },
  { value: 'headers', label: t('headers') },
  { value: 'links', label: t('links') },
];

/** One mail with its story, from cause to what came of it. */
export function MailSheet({
  shop,
  id,
  onClose,
}: {
  shop: string;
  id: string;
  onClose: () => void;
}) {
  const { data: mail, error } = outboxApi.useOutboxMailQuery(id);
  return (
    <SideSheet title={mail?.item.subject ?? t('anEmail')} width={780} onClose={onClose}>
      {error && <p role="alert">{messageOf(error)}</p>}
      {!mail && !error && <p className="quiet">{t('loading')}</p>}
      {mail && <Told shop={shop} mail={mail} />}
    </SideSheet>
  );
}

function Told({ shop, mail }: { shop: string; mail: OutboxMail }) {
  const { item, story, filled, stopped } = mail;
  const [view, setView] = useState<View>('mail');
  const { change, dialog } = useChangeMails(shop);
  const [settle] = outboxApi.useSettleOutboxMutation();
  const tell = ({ error }: { error?: unknown }) => error !== undefined && notifyFailure(error);
  const to = (what: MailChange) => void change(what, { ids: [item.id] });
  const isOpen = ['held', 'waiting', 'ready'].includes(item.state);
  return (
    <>
      {dialog}
      <div className={classes.tools}>
        <StateMark state={item.state} />
        <span>
          {t('toWhichToMail', {
            which: item.recipient === 'owner' ? t('theOwnerAbout') : '',
            to: item.to ?? item.email,
            mail: item.mail,
          })}
        </span>
        {item.state === 'held' && (
          <Button size="compact-sm" onClick={() => to('approve')}>
            {t('approve')}
          </Button>
        )}
        {isOpen && (
          <Button variant="default" size="compact-sm" onClick={() => to('stop')}>
            {t('stop')}
          </Button>
        )}
        {item.state === 'stopped' && item.reason?.startsWith('Stopped by hand') && (
          <Button variant="default" size="compact-sm" onClick={() => to('go_on')}>
            {t('resume')}
          </Button>
        )}
        {item.ended_by_server && (
          <Button
            variant="default"
            size="compact-sm"
            title={t('fillsItAgainAndSendsIt')}
            onClick={() => to('try_again')}
          >
            {t('tryAgain')}
          </Button>
        )}
        {item.state === 'sent' && (
          <Button
            variant="default"
            size="compact-sm"
            title={t('createsANewEmailForThe')}
            onClick={() => to('repeat')}
          >
            {t('sendAgain')}
          </Button>
        )}
        {item.state === 'in_doubt' && (
          <>
            <Button
              variant="default"
              size="compact-sm"
              onClick={() => void settle({ id: item.id, as: 'sent' }).then(tell)}
            >
              {t('itWasSent')}
            </Button>
            <Button
              variant="default"
              size="compact-sm"
              onClick={() => void settle({ id: item.id, as: 'again' }).then(tell)}
            >
              {t('sendItAgain')}
            </Button>
          </>
        )}
      </div>
      {item.reason && <p className={classes.paused}>{item.reason}</p>}
      {!filled && isOpen && (
        <p className="quiet">
          {stopped ? t('ifItWereDueNowIt', { stopped }) : t('shownAsItWouldBeFilled')}
        </p>
      )}
      <ol className={classes.story} aria-label={t('story')}>
        {story.map(({ at, text, parts }, i) => (
          <li key={i}>
            <time dateTime={at}>{momentOf(at)}</time>
            <div>
              {text}
              <AskedValues parts={parts} />
            </div>
          </li>
        ))}
      </ol>
      <div className={classes.tools}>
        <SegmentedControl
          size="xs"
          aria-label={t('whatIsShown')}
          data={VIEWS}
          value={view}
          onChange={(next) => setView(next as View)}
        />
        {filled && (
          <a href={`/api/outbox/${item.id}.eml`} download>
            {t('downloadEml')}
          </a>
        )}
        <Link to={`/occasions?shop=${shop}&open=${item.occasion}`}>{item.occasion_name}</Link>
        <Link to={`/templates/${item.template}`}>{item.template_name}</Link>
      </div>
      <Shown mail={mail} view={view} />
    </>
  );
}

function Shown({ mail, view }: { mail: OutboxMail; view: View }) {
  switch (view) {
    case 'mail':
      return (
        <iframe
          className={classes.frame}
          title={t('theEmail')}
          sandbox="allow-same-origin"
          srcDoc={lookedAt(mail.html)}
        />
      );
    case 'text':
    case 'headers':
      return (
        <pre className={classes.plain} tabIndex={0} aria-label={view}>
          {mail[view]}
        </pre>
      );
    case 'links':
      return mail.links.length === 0 ? (
        <p className="quiet">{t('noLinkInThisEmailGoes')}</p>
      ) : (
        <ol className={classes.plain}>
          {mail.links.map((link) => (
            <li key={link}>{link}</li>
          ))}
        </ol>
      );
    case 'why': {
      const trail = mail.trail as Trail;
      return trail.length === 0 ? (
        <p className="quiet">{t('nothingInItDependsOnData')}</p>
      ) : (
        <div className={classes.why}>
          {trail.map((entry, i) => (
            <TrailLine key={i} entry={entry} />
          ))}
        </div>
      );
    }
  }
}
