import { useAppSelector } from '../../app/store';
import { useDesk } from './useDesk';
import { useEdit } from './useEdit';
import classes from './EnvelopeLine.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

const time = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });

/** The mail as a list of mails shows it to this recipient; a click edits the envelope. */
export function EnvelopeLine() {
  const { filled, asOf } = useDesk();
  const isSelected = useAppSelector((s) => s.desk.selected === 'envelope');
  const isPhone = useAppSelector((s) => s.desk.view.width === 'phone');
  const { select } = useEdit();
  if (!filled) return null;
  const { from, subject, preview_text } = filled.mail;
  return (
    <button
      type="button"
      className={classes.line}
      data-phone={isPhone || undefined}
      data-selected={isSelected || undefined}
      aria-label={t('senderSubjectAndPreviewText')}
      title={t('asItAppearsInAList')}
      onClick={() => select('envelope')}
    >
      <span className={classes.from}>{from || t('noSender')}</span>
      <span className={classes.words}>
        <strong>
          <bdi>{subject || t('noSubject')}</bdi>
        </strong>
        {preview_text !== '' && <bdi className={classes.preview}> {preview_text}</bdi>}
      </span>
      <span className={classes.time}>{time.format(asOf)}</span>
    </button>
  );
}
