import '@fontsource-variable/hanken-grotesk';
import '@fontsource-variable/spline-sans-mono';
import '@mantine/core/styles.css';
import '@mantine/dates/styles.css';
import '@mantine/dropzone/styles.css';
import '@mantine/notifications/styles.css';
import '@mantine/spotlight/styles.css';
import './app/styles.css';
import { MantineProvider } from '@mantine/core';
import { Notifications } from '@mantine/notifications';
import { plainErrors } from '@carafe/core/errors';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { Broken } from './app/Broken';
import { NotHere } from './app/NotHere';
import { Shell } from './app/Shell';
import { store } from './app/store';
import { cssVariables, theme } from './app/theme';
import { prepareWorker } from './places/desk/worker/spare';
import { TemplatesPlace } from './places/templates/TemplatesPlace';

const loadDesk = () => import('./places/desk/Desk');
/** What opens the desk lets it come already when the pointer or the focus gets there. */
function expectDesk({ target }: Event): void {
  const opens = target instanceof Element && target.closest('a[href^="/templates/"]');
  if (opens) prepareDesk();
}
/** Loads the desk, and starts what builds its mails. Where that does not go, opening a template says so. */
function prepareDesk(): void {
  prepareWorker();
  loadDesk().catch(() => undefined);
}
for (const event of ['pointerover', 'focusin']) document.addEventListener(event, expectDesk);

const router = createBrowserRouter([
  {
    element: <Shell />,
    errorElement: <Broken />,
    children: [
      { path: '/', element: <TemplatesPlace /> },
      {
        path: '/templates/:id',
        // The desk brings editors with it: it is loaded when it is first opened.
        lazy: async () => ({ Component: (await loadDesk()).Desk }),
      },
      {
        path: '/recommendations',
        lazy: async () => ({
          Component: (await import('./places/recommendations/RulesPlace')).RulesPlace,
        }),
      },
      {
        path: '/library',
        lazy: async () => ({
          Component: (await import('./places/library/PicturesPlace')).PicturesPlace,
        }),
      },
      {
        path: '/library/notes',
        lazy: async () => ({ Component: (await import('./places/library/NotesPlace')).NotesPlace }),
      },
      {
        path: '/library/formulas',
        lazy: async () => ({
          Component: (await import('./places/library/FormulasPlace')).FormulasPlace,
        }),
      },
      {
        path: '/library/deleted',
        lazy: async () => ({
          Component: (await import('./places/library/DeletedPlace')).DeletedPlace,
        }),
      },
      {
        path: '/sources',
        lazy: async () => ({
          Component: (await import('./places/sources/SourcesPlace')).SourcesPlace,
        }),
      },
      {
        path: '/sources/:id',
        lazy: async () => ({
          Component: (await import('./places/sources/SourcePlace')).SourcePlace,
        }),
      },
      {
        path: '/sources/:id/files/:file',
        lazy: async () => ({ Component: (await import('./places/sources/FilePlace')).FilePlace }),
      },
      {
        path: '/occasions',
        lazy: async () => ({
          Component: (await import('./places/occasions/OccasionsPlace')).OccasionsPlace,
        }),
      },
      {
        path: '/people',
        lazy: async () => ({
          Component: (await import('./places/people/PeoplePlace')).PeoplePlace,
        }),
      },
      {
        path: '/outbox',
        lazy: async () => ({
          Component: (await import('./places/outbox/OutboxPlace')).OutboxPlace,
        }),
      },
      {
        path: '/mailbox',
        lazy: async () => ({
          Component: (await import('./places/mailbox/MailboxPlace')).MailboxPlace,
        }),
      },
      { path: '/templates', element: <TemplatesPlace /> },
      { path: '*', element: <NotHere /> },
    ],
  },
]);

// Who looks at the list of templates opens one.
if (location.pathname === '/' && 'requestIdleCallback' in window)
  requestIdleCallback(prepareDesk, { timeout: 5_000 });

plainErrors();
const root = document.getElementById('root');
if (!root) throw new Error('The page cannot start: its root element is missing.');
createRoot(root).render(
  <MantineProvider theme={theme} cssVariablesResolver={cssVariables} defaultColorScheme="auto">
    <Provider store={store}>
      <Notifications position="bottom-right" autoClose={8_000} />
      <RouterProvider router={router} />
    </Provider>
  </MantineProvider>,
);
