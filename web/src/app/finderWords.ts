/** What else people call what can be found, by its id: any of these words finds it. */
export const ALSO_CALLED: Record<string, string> = {
  templates: 'emails designs start home new template create import',
  '/recommendations': 'rules picks products suggestions recommender',
  '/library': 'images photos assets upload picture',
  '/library/notes': 'product texts content snippets',
  '/library/formulas': 'snippets variables shared values calculated fields',
  '/library/deleted': 'trash bin restore undelete archive history',
  '/occasions': 'automations triggers campaigns schedule journeys flows newsletter send',
  '/outbox': 'queue held approve waiting report statistics results sent failed bounces',
  '/mailbox': 'inbox received test emails',
  clock: 'time date later tomorrow test simulate',
  sources: 'data import upload csv feed catalog connect file shop add',
  segments: 'audience people groups lists filter customers',
  rules: 'limits frequency cap most emails a day week abandoned cart priority',
  hand: 'send now carts unpaid orders campaign',
  settings:
    'smtp mail server sender password dkim tracking clicks opens domain unsubscribe preferences public address test-only',
  api: 'docs documentation help reference developers integration openapi',
  add: 'insert new block footer unsubscribe link',
  everybody: 'report variants checks preview all proof review quality warnings impact expectations',
  test: 'share preview proof send try',
  publish: 'version versions history live release go live restore approve',
  keys: 'help shortcuts docs documentation',
  because: 'explain why reason debug',
  envelope:
    'subject sender from preview text language translate translation colours fonts style brand link tags',
};
