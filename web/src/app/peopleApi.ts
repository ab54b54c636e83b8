import { ENDPOINTS as E, type Having } from '@carafe/contract';
import { api, tag, type Ans } from './api';

const PEOPLE_A_PAGE = 100;

/** The people of a shop, one by one, and what is said of each. */
export const peopleApi = api.injectEndpoints({
  endpoints: (build) => ({
    erasePerson: build.mutation<Ans<'erasePerson'>, { shop: string; email: string }>({
      query: ({ shop, ...body }) => ({ endpoint: E.erasePerson, params: { shop }, body }),
      invalidatesTags: [tag('outbox'), tag('occasions')],
    }),
    person: build.query<Ans<'getPerson'>, { shop: string; email: string }>({
      query: ({ shop, email }) => ({ endpoint: E.getPerson, params: { shop }, query: { email } }),
      providesTags: [tag('person')],
    }),

    listPeople: build.infiniteQuery<
      Ans<'listRecipients'>,
      { shop: string; q: string; having: Having; consent?: 'yes' | 'no' },
      number
    >({
      infiniteQueryOptions: {
        initialPageParam: 0,
        getNextPageParam: ({ total }, _pages, offset) =>
          offset + PEOPLE_A_PAGE < total ? offset + PEOPLE_A_PAGE : undefined,
      },
      query: ({ queryArg: { shop, ...query }, pageParam }) => ({
        endpoint: E.listRecipients,
        params: { shop },
        query: { ...query, offset: pageParam, limit: PEOPLE_A_PAGE },
      }),
      providesTags: [tag('person')],
    }),
    personRank: build.query<Ans<'personRank'>, { shop: string; email: string }>({
      query: ({ shop, email }) => ({
        endpoint: E.personRank,
        params: { shop },
        query: { email },
      }),
      providesTags: [tag('person')],
    }),
    sayConsent: build.mutation<
      Ans<'postEvents'>,
      { id: string; shop: string; email: string; at: string; consent: boolean }
    >({
      query: (event) => ({
        endpoint: E.postEvents,
        body: { ...event, kind: 'consent_changed', how: 'changed by the shop' },
      }),
      invalidatesTags: [tag('person'), tag('outbox'), tag('occasions')],
    }),
    personEmails: build.query<Ans<'listOutbox'>, { shop: string; email: string }>({
      query: ({ shop, email }) => ({
        endpoint: E.listOutbox,
        params: { shop },
        query: { email, limit: 30 },
      }),
      providesTags: [tag('outbox')],
    }),
  }),
});
