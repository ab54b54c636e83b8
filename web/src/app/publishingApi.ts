import { ENDPOINTS as E } from '@carafe/contract';
import { api, byId, tag, type Ans } from './api';

/** What is published of templates. */
export const publishingApi = api.injectEndpoints({
  endpoints: (build) => ({
    published: build.query<Ans<'listPublished'>, string>({
      query: byId(E.listPublished),
      providesTags: [tag('template')],
    }),
    publishedVersion: build.query<Ans<'getPublished'>, { id: string; number: number }>({
      query: ({ id, number }) => ({
        endpoint: E.getPublished,
        params: { id, number: String(number) },
      }),
    }),
    publish: build.mutation<
      Ans<'publishTemplate'>,
      { id: string; version: number; note: string; despite?: string }
    >({
      query: ({ id, ...body }) => ({ endpoint: E.publishTemplate, params: { id }, body }),
      invalidatesTags: [tag('template')],
    }),
  }),
});
