import {
  ENDPOINTS as E,
  type AnswerOf,
  type ChangePicture,
  type ChangeSource,
  type CheckImport,
  type CreateSource,
  type CreateTemplate,
  type Endpoint,
  type ImportOutcome,
  type LiveUpdate,
  type DeletedKind,
  type Shop,
  type StoredShop,
} from '@carafe/contract';
import type { NamedFormula, ProductNote } from '@carafe/core/library';
import type { Template } from '@carafe/core/template';
import { createApi, type BaseQueryFn } from '@reduxjs/toolkit/query/react';
import { ask, RequestFailed, type Asked, type Refused } from './ask';

interface Asking extends Asked {
  endpoint: Endpoint;
}

/** Something that is stored, as it was read. */
export interface KeptAs {
  id: string;
  version: string;
}

/** Everything goes through `ask`: addresses, methods and shapes are the contract's. */
const askServer: BaseQueryFn<Asking, unknown, Refused> = async (
  { endpoint, ...asked },
  { signal },
) => {
  try {
    return { data: (await ask(endpoint, asked, signal)) ?? null };
  } catch (error) {
    if (error instanceof RequestFailed) return { error: error.refused };
    // Nobody waits for it any more: nothing is told, and nothing is wrong.
    if (signal.aborted) return { error: { status: 0, message: '', body: null } };
    throw error;
  }
};

const TAGS = [
  'shape',
  'mail',
  'outbox',
  'occasions',
  'template',
  'preview',
  'looked',
  'source',
  'rows',
  'import',
  'shop',
  'person',
  'picture',
  'library',
] as const;
type Tag = (typeof TAGS)[number];
/** All of a kind, beside each by its id. */
const LIST = 'LIST';
export const tag = (type: Tag, id: string = LIST) => ({ type, id });

export type Ans<K extends keyof typeof E> = AnswerOf<(typeof E)[K]>;
export const byId = (endpoint: Endpoint) => (id: string) => ({ endpoint, params: { id } });

/** Rows are asked for so many at a time. */
export const ROWS_A_PAGE = 100;

/** What is asked of the server, kept by what it is about; live updates say what is no longer so. */
export const api = createApi({
  baseQuery: askServer,
  tagTypes: TAGS,
  keepUnusedDataFor: 30,
  endpoints: (build) => ({
    templates: build.query<Ans<'listTemplates'>, void>({
      query: () => ({ endpoint: E.listTemplates }),
      providesTags: [tag('template')],
    }),
    preview: build.query<Ans<'previewTemplate'>, { id: string; version: number; person?: number }>({
      query: ({ id, person }) => ({
        ...byId(E.previewTemplate)(id),
        ...(person !== undefined && { query: { person: String(person) } }),
      }),
      providesTags: (_r, _e, { id }) => [tag('preview', id)],
    }),
    createTemplate: build.mutation<Ans<'createTemplate'>, CreateTemplate>({
      query: (body) => ({ endpoint: E.createTemplate, body }),
      invalidatesTags: [tag('template')],
    }),
    renameTemplate: build.mutation<
      Ans<'saveTemplate'>,
      { id: string; version: number; template: Template }
    >({
      query: ({ id, ...body }) => ({ endpoint: E.saveTemplate, params: { id }, body }),
      invalidatesTags: [tag('template')],
    }),
    letTemplateGo: build.mutation<null, string>({
      query: byId(E.letTemplateGo),
      invalidatesTags: [tag('template')],
    }),
    deleteTemplate: build.mutation<null, string>({
      query: byId(E.deleteTemplate),
      invalidatesTags: [tag('template')],
    }),
    restoreTemplate: build.mutation<Ans<'restoreTemplate'>, string>({
      query: byId(E.restoreTemplate),
      invalidatesTags: [tag('template')],
    }),

    shops: build.query<Ans<'listShops'>, void>({
      query: () => ({ endpoint: E.listShops }),
      providesTags: [tag('shop')],
    }),
    createShop: build.mutation<StoredShop, Shop>({
      query: (body) => ({ endpoint: E.createShop, body }),
      invalidatesTags: [tag('shop')],
    }),
    changeShop: build.mutation<StoredShop, { version: string; shop: Shop }>({
      query: ({ version, shop }) => ({
        ...{ endpoint: E.changeShop, params: { shop: shop.id }, query: { version }, body: shop },
      }),
      invalidatesTags: [tag('shop')],
    }),
    audience: build.query<Ans<'audience'>, { shop: string; formula: string }>({
      query: ({ shop, ...body }) => ({ endpoint: E.audience, params: { shop }, body }),
      providesTags: [tag('person')],
    }),
    recipientFacets: build.query<Ans<'recipientFacets'>, string>({
      query: (shop) => ({ endpoint: E.recipientFacets, params: { shop } }),
      providesTags: [tag('person')],
    }),

    pictures: build.query<Ans<'listPictures'>, void>({
      query: () => ({ endpoint: E.listPictures }),
      providesTags: [tag('picture')],
    }),
    changePicture: build.mutation<Ans<'changePicture'>, { id: string; asked: ChangePicture }>({
      query: ({ id, asked }) => ({ endpoint: E.changePicture, params: { id }, body: asked }),
      invalidatesTags: [tag('picture')],
    }),
    deletePicture: build.mutation<null, string>({
      query: byId(E.deletePicture),
      invalidatesTags: [tag('picture')],
    }),

    shape: build.query<Ans<'shape'>, string>({
      query: (shop) => ({ endpoint: E.shape, params: { shop } }),
      providesTags: [tag('library'), tag('person'), tag('shape')],
    }),
    samples: build.query<Ans<'samples'>, { shop: string; formula: string }>({
      query: ({ shop, ...body }) => ({ endpoint: E.samples, params: { shop }, body }),
      providesTags: [tag('person'), tag('library')],
    }),
    formulas: build.query<Ans<'listFormulas'>, string>({
      query: (shop) => ({ endpoint: E.listFormulas, params: { shop } }),
      providesTags: [tag('library'), tag('template')],
    }),
    addFormula: build.mutation<Ans<'addFormula'>, { shop: string; formula: NamedFormula }>({
      query: ({ shop, formula }) => ({ endpoint: E.addFormula, params: { shop }, body: formula }),
      invalidatesTags: [tag('library')],
    }),
    changeFormula: build.mutation<
      Ans<'changeFormula'>,
      { id: string; version: string; formula: NamedFormula }
    >({
      query: ({ id, version, formula }) => ({
        ...{ endpoint: E.changeFormula, params: { id }, query: { version }, body: formula },
      }),
      invalidatesTags: [tag('library')],
    }),
    deleteFormula: build.mutation<null, string>({
      query: byId(E.deleteFormula),
      invalidatesTags: [tag('library')],
    }),
    notes: build.query<Ans<'listNotes'>, string>({
      query: (shop) => ({ endpoint: E.listNotes, params: { shop } }),
      providesTags: [tag('library'), tag('template')],
    }),
    addNote: build.mutation<Ans<'addNote'>, { shop: string; note: ProductNote }>({
      query: ({ shop, note }) => ({ endpoint: E.addNote, params: { shop }, body: note }),
      invalidatesTags: [tag('library')],
    }),
    changeNote: build.mutation<
      Ans<'changeNote'>,
      { id: string; version: string; note: ProductNote }
    >({
      query: ({ id, version, note }) => ({
        ...{ endpoint: E.changeNote, params: { id }, query: { version }, body: note },
      }),
      invalidatesTags: [tag('library')],
    }),
    deleteNote: build.mutation<null, string>({
      query: byId(E.deleteNote),
      invalidatesTags: [tag('library')],
    }),

    deleted: build.query<Ans<'listDeleted'>, void>({
      query: () => ({ endpoint: E.listDeleted }),
      // Whatever is deleted or restored changes one of these.
      providesTags: [tag('template'), tag('occasions'), tag('picture'), tag('library')],
      keepUnusedDataFor: 0,
    }),
    restoreDeleted: build.mutation<Ans<'restoreDeleted'>, { kind: DeletedKind; id: string }>({
      query: (params) => ({ endpoint: E.restoreDeleted, params }),
      invalidatesTags: [tag('template'), tag('occasions'), tag('picture'), tag('library')],
    }),

    health: build.query<Ans<'health'>, void>({
      query: () => ({ endpoint: E.health }),
      providesTags: [tag('source')],
    }),
    sources: build.query<Ans<'listSources'>, void>({
      query: () => ({ endpoint: E.listSources }),
      providesTags: [tag('source')],
    }),
    source: build.query<Ans<'getSource'>, string>({
      query: byId(E.getSource),
      providesTags: (_r, _e, id) => [tag('source', id)],
    }),
    profile: build.query<Ans<'sourceProfile'>, string>({
      query: byId(E.sourceProfile),
      providesTags: (_r, _e, id) => [tag('rows', id)],
    }),
    createSource: build.mutation<Ans<'createSource'>, CreateSource>({
      query: (body) => ({ endpoint: E.createSource, body }),
      invalidatesTags: [tag('source')],
    }),
    changeSource: build.mutation<Ans<'changeSource'>, { id: string; asked: ChangeSource }>({
      query: ({ id, asked }) => ({ endpoint: E.changeSource, params: { id }, body: asked }),
      invalidatesTags: (_r, _e, { id }) => [tag('source'), tag('source', id)],
    }),
    deleteSource: build.mutation<null, string>({
      query: byId(E.deleteSource),
      invalidatesTags: [tag('source')],
    }),
    restoreSource: build.mutation<Ans<'restoreSource'>, string>({
      query: byId(E.restoreSource),
      invalidatesTags: (_r, _e, id) => [tag('source'), tag('source', id)],
    }),
    fetchSource: build.mutation<Ans<'fetchSource'>, string>({
      query: byId(E.fetchSource),
      invalidatesTags: (_r, _e, id) => [tag('source'), tag('source', id), tag('rows', id)],
    }),
    typeRows: build.mutation<Ans<'typeRows'>, { id: string; records: Record<string, unknown>[] }>({
      query: ({ id, records }) => ({ endpoint: E.typeRows, params: { id }, body: { records } }),
      invalidatesTags: (_r, _e, { id }) => [tag('source'), tag('source', id), tag('rows', id)],
    }),
    deleteRow: build.mutation<null, { id: string; key: string }>({
      query: (params) => ({ endpoint: E.deleteRow, params }),
      invalidatesTags: (_r, _e, { id }) => [tag('source'), tag('source', id), tag('rows', id)],
    }),

    import: build.query<Ans<'getImport'>, string>({
      query: byId(E.getImport),
      providesTags: (_r, _e, id) => [tag('import', id)],
    }),
    look: build.query<Ans<'lookAtImport'>, string>({ query: byId(E.lookAtImport) }),
    lookAgain: build.mutation<Ans<'lookAgain'>, { id: string; settings: unknown }>({
      query: ({ id, settings }) => ({ endpoint: E.lookAgain, params: { id }, body: { settings } }),
    }),
    checkImport: build.mutation<Ans<'checkImport'>, { id: string; asked: CheckImport }>({
      query: ({ id, asked }) => ({ endpoint: E.checkImport, params: { id }, body: asked }),
      invalidatesTags: (_r, _e, { id }) => [tag('import', id)],
    }),
    stopImport: build.mutation<Ans<'stopImport'>, string>({
      query: byId(E.stopImport),
      invalidatesTags: (_r, _e, id) => [tag('import', id)],
    }),
    discardImport: build.mutation<null, string>({
      query: byId(E.discardImport),
      invalidatesTags: (_r, _e, id) => [tag('import', id), tag('source')],
    }),
    importRows: build.query<
      Ans<'importRows'>,
      { id: string; outcome: ImportOutcome; offset: number }
    >({
      query: ({ id, outcome, offset }) => ({
        endpoint: E.importRows,
        params: { id },
        query: { outcome, offset, limit: ROWS_A_PAGE },
      }),
      providesTags: (_r, _e, { id }) => [tag('import', id)],
    }),
    applyImport: build.mutation<Ans<'applyImport'>, string>({
      query: byId(E.applyImport),
      invalidatesTags: (answer, _e, id) => [
        tag('import', id),
        tag('source'),
        tag('source', answer?.source),
        tag('rows', answer?.source),
      ],
    }),
    undoImport: build.mutation<Ans<'undoImport'>, string>({
      query: byId(E.undoImport),
      invalidatesTags: (answer, _e, id) => [
        tag('import', id),
        tag('source'),
        tag('source', answer?.source),
        tag('rows', answer?.source),
      ],
    }),
  }),
});

/** What of all that is kept is no longer so after an update. */
export function staleTags(update: LiveUpdate): (Tag | { type: Tag; id: string })[] {
  switch (update.type) {
    case 'here':
    case 'trial':
      return [];
    case 'shared':
      return [tag('library')];
    case 'shape':
      return [tag('shape')];
    case 'stale':
      return [...TAGS];
    case 'people':
      return [tag('person')];
    case 'looked':
      return [tag('looked', update.template)];
    case 'outbox':
      return [tag('outbox'), tag('mail')];
    case 'occasions':
      return [tag('occasions')];
    case 'clock':
      return [...TAGS];
    case 'template':
      return [tag('template'), tag('preview', update.id), tag('picture')];
    case 'source':
      return [tag('source'), tag('source', update.id), tag('rows', update.id)];
    case 'import':
      // How far it is comes with the update itself.
      if (update.state === 'checking' || (update.state === 'applying' && update.progress))
        return [];
      return [tag('import', update.id), tag('source'), tag('source', update.source)];
  }
}
