import { ENDPOINTS as E, type BodyOf, type MailSettings } from '@carafe/contract';
import { api, byId, tag, type Ans } from './api';

/** Email settings, tests to oneself, and the stand-in mailbox. */
export const mailApi = api.injectEndpoints({
  endpoints: (build) => ({
    mailSettings: build.query<Ans<'mailSettings'>, void>({
      query: () => ({ endpoint: E.mailSettings }),
      providesTags: [tag('mail')],
    }),
    changeMailSettings: build.mutation<MailSettings, { version: string; settings: MailSettings }>({
      query: ({ version, settings }) => ({
        ...{ endpoint: E.changeMailSettings, query: { version }, body: settings },
      }),
      invalidatesTags: [tag('mail')],
    }),
    tryMailServer: build.mutation<Ans<'tryMailServer'>, MailSettings>({
      query: (body) => ({ endpoint: E.tryMailServer, body }),
    }),
    sendTest: build.mutation<Ans<'sendTest'>, BodyOf<typeof E.sendTest>>({
      query: (body) => ({ endpoint: E.sendTest, body }),
      invalidatesTags: [tag('mail')],
    }),
    mailbox: build.query<Ans<'listMailbox'>, void>({
      query: () => ({ endpoint: E.listMailbox }),
      providesTags: [tag('mail')],
    }),
    mail: build.query<Ans<'readMailbox'>, string>({ query: byId(E.readMailbox) }),
    emptyMailbox: build.mutation<null, void>({
      query: () => ({ endpoint: E.emptyMailbox }),
      invalidatesTags: [tag('mail')],
    }),
  }),
});
