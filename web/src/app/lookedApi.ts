import { ENDPOINTS as E } from '@carafe/contract';
import { api, byId, tag, type Ans } from './api';

const marksApi = api.injectEndpoints({
  endpoints: (build) => ({
    looked: build.query<Ans<'lookedVariants'>, string>({
      query: byId(E.lookedVariants),
      providesTags: (_r, _e, id) => [tag('looked', id)],
    }),
  }),
});

interface Tick {
  id: string;
  variant: string;
  /** Null for a variant that was not looked at. */
  mark: string | null;
}

/** Which variants of a template were looked at. A tick stands at once, and goes again where the server refuses it. */
export const lookedApi = marksApi.injectEndpoints({
  endpoints: (build) => ({
    tick: build.mutation<Ans<'lookAtVariant'>, Tick>({
      query: ({ id, ...body }) => ({ endpoint: E.lookAtVariant, params: { id }, body }),
      async onQueryStarted({ id, variant, mark }, { dispatch, queryFulfilled }) {
        const stands = dispatch(
          marksApi.util.updateQueryData('looked', id, ({ marks }) => {
            if (mark === null) delete marks[variant];
            else marks[variant] = mark;
          }),
        );
        // Whoever asked for it tells what went wrong.
        await queryFulfilled.catch(() => stands.undo());
      },
    }),
  }),
});
