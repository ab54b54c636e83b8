import { ENDPOINTS as E, type BodyOf, type OutboxQuery } from '@carafe/contract';
import type { Occasion, Segment, ShopRules } from '@carafe/core/occasion';
import { api, byId, tag, type Ans } from './api';

const changed = [tag('occasions'), tag('outbox')];

/** When templates go out, segments, and what holds for all of a shop. */
export const occasionsApi = api.injectEndpoints({
  endpoints: (build) => ({
    occasions: build.query<Ans<'listOccasions'>, string>({
      query: (shop) => ({ endpoint: E.listOccasions, params: { shop } }),
      providesTags: [tag('occasions')],
    }),
    recipients: build.query<
      Ans<'listRecipients'>,
      { shop: string; having: 'all' | 'cart'; q?: string; limit: number }
    >({
      query: ({ shop, ...query }) => ({ endpoint: E.listRecipients, params: { shop }, query }),
      providesTags: [tag('person')],
    }),
    someRecipients: build.query<Ans<'someRecipients'>, { shop: string; ids: readonly number[] }>({
      query: ({ shop, ids }) => ({
        endpoint: E.someRecipients,
        params: { shop },
        query: { ids: ids.join(',') },
      }),
      providesTags: [tag('person')],
    }),
    presets: build.query<Ans<'occasionPresets'>, string>({
      query: (shop) => ({ endpoint: E.occasionPresets, params: { shop } }),
      providesTags: [tag('template')],
    }),
    addOccasion: build.mutation<Ans<'addOccasion'>, { shop: string; occasion: Occasion }>({
      query: ({ shop, occasion }) => ({
        endpoint: E.addOccasion,
        params: { shop },
        body: occasion,
      }),
      invalidatesTags: changed,
    }),
    changeOccasion: build.mutation<
      Ans<'changeOccasion'>,
      { id: string; version: number; occasion: Occasion }
    >({
      query: ({ id, ...body }) => ({ endpoint: E.changeOccasion, params: { id }, body }),
      invalidatesTags: [tag('occasions')],
    }),
    deleteOccasion: build.mutation<null, string>({
      query: byId(E.deleteOccasion),
      invalidatesTags: changed,
    }),
    beforePublishing: build.query<Ans<'beforePublishing'>, string>({
      query: byId(E.beforePublishing),
      keepUnusedDataFor: 0,
    }),
    switchOn: build.mutation<Ans<'publishOccasion'>, { id: string; version: number }>({
      query: ({ id, version }) => ({
        endpoint: E.publishOccasion,
        params: { id },
        body: { version },
      }),
      invalidatesTags: changed,
    }),
    switchOff: build.mutation<Ans<'switchOff'>, { id: string; waiting: 'stop' | 'send' }>({
      query: ({ id, ...body }) => ({ endpoint: E.switchOff, params: { id }, body }),
      invalidatesTags: changed,
    }),
    answerCrowd: build.mutation<Ans<'answerCrowd'>, { id: string; answer: 'send' | 'stop' }>({
      query: ({ id, ...body }) => ({ endpoint: E.answerCrowd, params: { id }, body }),
      invalidatesTags: changed,
    }),
    insideOf: build.query<Ans<'insideOf'>, string>({
      query: (id) => ({ endpoint: E.insideOf, params: { id }, query: { limit: 200 } }),
      providesTags: [tag('occasions')],
    }),
    walk: build.query<Ans<'walk'>, { shop: string; body: BodyOf<typeof E.walk> }>({
      query: ({ shop, body }) => ({ endpoint: E.walk, params: { shop }, body }),
      providesTags: [tag('person')],
    }),
    replayedMail: build.query<
      Ans<'replayedMail'>,
      { shop: string; body: BodyOf<typeof E.replayedMail> }
    >({
      query: ({ shop, body }) => ({ endpoint: E.replayedMail, params: { shop }, body }),
    }),
    personWhy: build.query<Ans<'personWhy'>, { shop: string; email: string }>({
      query: ({ shop, email }) => ({ endpoint: E.personWhy, params: { shop }, query: { email } }),
      providesTags: [tag('occasions')],
    }),
    handList: build.query<Ans<'listByHand'>, { shop: string; list: string }>({
      query: (params) => ({ endpoint: E.listByHand, params }),
      providesTags: [tag('person'), tag('outbox')],
    }),
    startByHand: build.mutation<Ans<'startByHand'>, { id: string; people: number[]; name: string }>(
      {
        query: ({ id, ...body }) => ({ endpoint: E.startByHand, params: { id }, body }),
        invalidatesTags: changed,
      },
    ),
    changeMailRules: build.mutation<ShopRules, { shop: string; version: string; rules: ShopRules }>(
      {
        query: ({ shop, version, rules }) => ({
          ...{ endpoint: E.changeMailRules, params: { shop }, query: { version }, body: rules },
        }),
        invalidatesTags: [tag('occasions')],
      },
    ),
    segments: build.query<Ans<'listSegments'>, string>({
      query: (shop) => ({ endpoint: E.listSegments, params: { shop } }),
      providesTags: [tag('occasions')],
    }),
    addSegment: build.mutation<Ans<'addSegment'>, { shop: string; segment: Segment }>({
      query: ({ shop, segment }) => ({ endpoint: E.addSegment, params: { shop }, body: segment }),
      invalidatesTags: [tag('occasions')],
    }),
    changeSegment: build.mutation<
      Ans<'changeSegment'>,
      { shop: string; name: string; version: string; segment: Segment }
    >({
      query: ({ shop, name, version, segment }) => ({
        ...{ endpoint: E.changeSegment, params: { shop, name } },
        ...{ query: { version }, body: segment },
      }),
      invalidatesTags: [tag('occasions')],
    }),
    deleteSegment: build.mutation<null, { shop: string; name: string }>({
      query: (params) => ({ endpoint: E.deleteSegment, params }),
      invalidatesTags: [tag('occasions')],
    }),
  }),
});

/** Every mail that was made, and the clock. */
export const outboxApi = api.injectEndpoints({
  endpoints: (build) => ({
    attention: build.query<Ans<'attention'>, void>({
      query: () => ({ endpoint: E.attention }),
      providesTags: [tag('outbox'), tag('occasions')],
    }),
    retryJob: build.mutation<null, number>({
      query: (id) => ({ endpoint: E.retryJob, params: { id: String(id) } }),
      invalidatesTags: [tag('outbox')],
    }),
    dropJob: build.mutation<null, number>({
      query: (id) => ({ endpoint: E.dropJob, params: { id: String(id) } }),
      invalidatesTags: [tag('outbox')],
    }),
    failedAddresses: build.query<Ans<'failedAddresses'>, string>({
      query: (q) => ({ endpoint: E.failedAddresses, query: { q, limit: 200 } }),
      providesTags: [tag('outbox')],
    }),
    allowAddress: build.mutation<null, string>({
      query: (email) => ({ endpoint: E.allowAddress, body: { email } }),
      invalidatesTags: [tag('outbox')],
    }),
    outboxSummary: build.query<Ans<'outboxSummary'>, string>({
      query: (shop) => ({ endpoint: E.outboxSummary, params: { shop } }),
      providesTags: [tag('outbox')],
    }),
    outboxMail: build.query<Ans<'readOutbox'>, string>({
      query: byId(E.readOutbox),
      providesTags: [tag('outbox')],
    }),
    changeOutbox: build.mutation<
      Ans<'changeOutbox'>,
      {
        shop: string;
        to: BodyOf<typeof E.changeOutbox>['to'];
        ids?: string[];
        query?: OutboxQuery;
        even_off?: boolean;
      }
    >({
      query: ({ shop, ...body }) => ({ endpoint: E.changeOutbox, params: { shop }, body }),
      invalidatesTags: [tag('outbox'), tag('occasions')],
    }),
    settleOutbox: build.mutation<null, { id: string; as: 'sent' | 'again' }>({
      query: ({ id, as }) => ({ endpoint: E.settleOutbox, params: { id }, body: { as } }),
      invalidatesTags: [tag('outbox')],
    }),
    clock: build.query<Ans<'clock'>, void>({
      query: () => ({ endpoint: E.clock }),
      providesTags: [tag('outbox')],
    }),
    moveClock: build.mutation<Ans<'moveClock'>, number>({
      query: (minutes) => ({ endpoint: E.moveClock, body: { minutes } }),
    }),
    resetClock: build.mutation<Ans<'resetClock'>, void>({
      query: () => ({ endpoint: E.resetClock }),
    }),
  }),
});
