import { ENDPOINTS as E } from '@carafe/contract';
import type { Rule } from '@carafe/core/recommend';
import { api, byId, tag, type Ans } from './api';

/** Recommendation rules and what they pick. */
export const rulesApi = api.injectEndpoints({
  endpoints: (build) => ({
    rules: build.query<Ans<'listRules'>, string>({
      query: (shop) => ({ endpoint: E.listRules, params: { shop } }),
      providesTags: [tag('library')],
    }),
    addRule: build.mutation<Ans<'addRule'>, { shop: string; rule: Rule }>({
      query: ({ shop, rule }) => ({ endpoint: E.addRule, params: { shop }, body: rule }),
      invalidatesTags: [tag('library')],
    }),
    changeRule: build.mutation<Ans<'changeRule'>, { id: string; version: string; rule: Rule }>({
      query: ({ id, version, rule }) => ({
        ...{ endpoint: E.changeRule, params: { id }, query: { version }, body: rule },
      }),
      invalidatesTags: [tag('library')],
    }),
    publishRule: build.mutation<Ans<'publishRule'>, { id: string; version: string }>({
      query: ({ id, version }) => ({
        ...{ endpoint: E.publishRule, params: { id }, query: { version } },
      }),
      invalidatesTags: [tag('library')],
    }),
    copyRule: build.mutation<Ans<'copyRule'>, { id: string; shop: string }>({
      query: ({ id, shop }) => ({ endpoint: E.copyRule, params: { id }, body: { shop } }),
      invalidatesTags: [tag('library')],
    }),
    deleteRule: build.mutation<null, string>({
      query: byId(E.deleteRule),
      invalidatesTags: [tag('library')],
    }),
    picks: build.query<
      Ans<'picks'>,
      { shop: string; rule: string; person: string; version?: 'published' | 'draft' }
    >({
      query: ({ version = 'published', ...params }) => ({
        ...{ endpoint: E.picks, params, query: { version } },
      }),
      providesTags: [tag('library'), tag('person')],
    }),
    foundRecipients: build.query<
      Ans<'listRecipients'>,
      { shop: string; q: string; offset?: number }
    >({
      query: ({ shop, q, offset = 0 }) => ({
        endpoint: E.listRecipients,
        params: { shop },
        query: { q, limit: 1, offset, having: 'all' },
      }),
      providesTags: [tag('person')],
    }),
  }),
});
