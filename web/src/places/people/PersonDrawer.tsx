import { Loader } from '@mantine/core';
import type { ShopEvent } from '@carafe/core/record';
import { peopleApi } from '../../app/peopleApi';
import { messageOf } from '../../app/ask';
import { PersonOccasions } from '../../parts/PersonOccasions';
import { SideSheet } from '../../parts/SideSheet';
import { ErasePerson } from './ErasePerson';
import { PersonConsent } from './PersonConsent';
import { PersonEmails } from './PersonEmails';
import { PersonRank } from './PersonRank';
import { RecordList } from '../sources/RecordList';
import { momentOf } from '../../parts/moment';
import classes from '../sources/Source.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('people');

const EVENT_WORDS: Record<ShopEvent['kind'], string> = {
  viewed: 'Looked at',
  cart_added: 'Added to the cart',
  cart_changed: 'Changed in the cart',
  cart_removed: 'Removed from the cart',
  checkout_started: 'Started the checkout',
  order_placed: 'Ordered',
  order_status_changed: 'Order status',
  order_cancelled: 'Order cancelled',
  order_changed: 'Order changed',
  order_refunded: 'Refunded',
  consent_changed: 'Consent',
};

/** What an event is about, in a few words. */
function about(event: ShopEvent): string {
  switch (event.kind) {
    case 'viewed':
    case 'cart_removed':
      return event.sku;
    case 'cart_changed':
      return t('skuNowQuantity', { sku: event.sku, quantity: event.quantity });
    case 'cart_added':
      return `${event.quantity} × ${event.name}`;
    case 'checkout_started':
      return '';
    case 'order_placed':
    case 'order_cancelled':
    case 'order_changed':
      return event.number;
    case 'order_refunded':
      return `${event.number}: ${event.amount}`;
    case 'order_status_changed':
      return `${event.number}: ${event.status}`;
    case 'consent_changed':
      return `${event.consent ? 'given' : t('takenBack')}${event.how ? `, ${event.how}` : ''}`;
  }
}

const fieldsOf = (value: unknown) => (value ?? {}) as Record<string, unknown>;

/** Where the person chooses what to get: the page that the links of their emails lead to. */
function preferencesOf(record: Record<string, unknown>): string | null {
  const { preferences } = fieldsOf(record['links']);
  return typeof preferences === 'string' ? preferences : null;
}

/** All that a template would see of one person, and the events that made it. */
export function PersonDrawer({
  shop,
  email,
  onClose,
}: {
  shop: string;
  email: string;
  onClose: () => void;
}) {
  const { data: seen, error } = peopleApi.usePersonQuery({ shop, email });
  return (
    <SideSheet title={email} width={520} onClose={onClose}>
      {error && <p role="alert">{messageOf(error)}</p>}
      {!seen && !error && <Loader size="sm" />}
      {seen && (
        <div className={classes.record}>
          <PersonConsent
            {...{ shop, email }}
            person={fieldsOf(seen.record['person'])}
            preferences={preferencesOf(seen.record)}
          />
          <PersonRank shop={shop} email={email} />
          <PersonEmails shop={shop} email={email} />
          <PersonOccasions shop={shop} email={email} />
          <p className="quiet">{t('whatTemplatesSeeOfThisPerson')}</p>
          {Object.entries(seen.record)
            .filter(([, value]) => typeof value === 'object' && value !== null)
            .map(([part, value]) => (
              <section key={part}>
                <h3>{part}</h3>
                {Array.isArray(value) ? (
                  <RecordList record={{ [part]: value }} />
                ) : (
                  <RecordList record={fieldsOf(value)} />
                )}
              </section>
            ))}
          <section>
            <h3>{t('eventsTheLatestFirst')}</h3>
            {seen.events.length === 0 && <p className="quiet">{t('noEventsAllOfThisWas')}</p>}
            <ol>
              {[...seen.events].reverse().map((event) => (
                <li key={event.id}>
                  {EVENT_WORDS[event.kind]} {about(event)}
                  <div className="quiet figures">{momentOf(event.at)}</div>
                  <details>
                    <summary className="quiet">{t('asItCame')}</summary>
                    <pre>{JSON.stringify(event, null, 2)}</pre>
                  </details>
                </li>
              ))}
            </ol>
          </section>
          <ErasePerson {...{ shop, email, onClose }} />
        </div>
      )}
    </SideSheet>
  );
}
