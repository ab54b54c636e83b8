import { Dialog } from '../../../parts/Dialog';
import type { NodeChange } from '@carafe/core/variant';
import { MailThumb } from '../../../parts/mails/MailThumb';
import type { useFilledDraft } from '../../../parts/mails/filledDraft';
import { markNodes } from './markNodes';
import classes from './SideBySide.module.css';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

type Filled = ReturnType<typeof useFilledDraft>;

/** The mail of one person before and after an edit, with what differs marked. */
export function SideBySide({
  before,
  after,
  nodes,
  onClose,
}: {
  before: Filled;
  after: Filled;
  nodes: readonly NodeChange[];
  onClose: () => void;
}) {
  const marked = (but: NodeChange['change']) =>
    nodes.filter(({ change }) => change !== but).map(({ node }) => node);
  return (
    <Dialog opened title={t('sideBySide')} size={960} onClose={onClose}>
      <div className={classes.both}>
        <Side name="Published" filled={before} other={after} nodes={marked('appears')} />
        <Side name="Draft" filled={after} other={before} nodes={marked('vanishes')} />
      </div>
    </Dialog>
  );
}

const HEAD = [
  { field: 'from', label: t('from') },
  { field: 'subject', label: t('subject') },
  { field: 'preview_text', label: t('preview') },
] as const;

function Side({
  name,
  filled,
  other,
  nodes,
}: {
  name: string;
  filled: Filled;
  other: Filled;
  nodes: readonly string[];
}) {
  return (
    <section aria-label={name} className={classes.side}>
      <h3>{name}</h3>
      <dl>
        {HEAD.map(({ field, label }) => (
          <div key={field} data-differs={filled.mail?.[field] !== other.mail?.[field] || undefined}>
            <dt>{label}</dt>
            <dd>{filled.mail?.[field] === '' ? t('blank') : filled.mail?.[field]}</dd>
          </div>
        ))}
      </dl>
      <div className={classes.mail}>
        <MailThumb {...filled} onShown={(frame) => grown(frame, nodes)} />
      </div>
    </section>
  );
}

/** A mail as high as it is, with its marks. */
function grown(frame: HTMLIFrameElement, nodes: readonly string[]): void {
  const page = frame.contentDocument;
  if (page?.body) frame.style.height = `${Math.min(12_000, page.body.scrollHeight)}px`;
  markNodes(frame, nodes);
}
