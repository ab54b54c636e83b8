import { ENDPOINTS as E } from '@carafe/contract';
import { api, tag, type Ans } from './api';

/** Recipients that are made up. */
export const testRecipientsApi = api.injectEndpoints({
  endpoints: (build) => ({
    testRecipients: build.query<Ans<'listTestRecipients'>, string>({
      query: (shop) => ({ endpoint: E.listTestRecipients, params: { shop } }),
      providesTags: [tag('person')],
    }),
    addTestRecipient: build.mutation<
      Ans<'addTestRecipient'>,
      { shop: string; name: string } & ({ data?: unknown } | { like: number })
    >({
      query: ({ shop, ...body }) => ({ endpoint: E.addTestRecipient, params: { shop }, body }),
      invalidatesTags: [tag('person')],
    }),
    changeTestRecipient: build.mutation<
      Ans<'changeTestRecipient'>,
      { shop: string; id: number; name: string; data: unknown }
    >({
      query: ({ shop, id, ...body }) => ({
        ...{ endpoint: E.changeTestRecipient, params: { shop, id: String(id) }, body },
      }),
      invalidatesTags: [tag('person')],
    }),
    deleteTestRecipient: build.mutation<null, { shop: string; id: number }>({
      query: ({ shop, id }) => ({
        ...{ endpoint: E.deleteTestRecipient, params: { shop, id: String(id) } },
      }),
      invalidatesTags: [tag('person')],
    }),
  }),
});
