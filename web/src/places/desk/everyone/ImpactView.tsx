import { useMemo, useState } from 'react';
import { Select, UnstyledButton } from '@mantine/core';
import { skipToken } from '@reduxjs/toolkit/query';
import { DELETED_PART, nodeNames, readTemplate, type Template } from '@carafe/core/template';
import type { ImpactGroup } from '@carafe/core/variant';
import { publishingApi } from '../../../app/publishingApi';
import { useDeskState } from '../../../app/store';
import { useNow } from '../../../app/useNow';
import { ago } from '../../../parts/ago';
import { counted, figure } from '@carafe/core/words';
import { SeverityIcon } from '../../../parts/Findings';
import { useEdit } from '../useEdit';
import { MailThumb } from '../../../parts/mails/MailThumb';
import { useFilledDraft } from '../../../parts/mails/filledDraft';
import { markNodes } from './markNodes';
import { SideBySide } from './SideBySide';
import { useImpact } from './useImpact';
import { useLookAt } from './useLookAt';
import { useEveryone } from './useSurvey';
import classes from './Everyone.module.css';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

const ROWS = 12;
const CHANGE_WORDS = { appears: 'appears', vanishes: t('isGone'), changes: 'changes' } as const;

/** Whose mail the draft changes, against what is published. */
export function ImpactView() {
  const { id, template } = useDeskState('id', 'template');
  const { audience } = useEveryone();
  const { data } = publishingApi.usePublishedQuery(id ?? skipToken);
  const versions = data?.versions ?? [];
  const [chosen, setChosen] = useState<number | null>(null);
  const now = useNow();
  const number = chosen ?? versions[0]?.number;
  const { data: published } = publishingApi.usePublishedVersionQuery(
    id && number !== undefined ? { id, number } : skipToken,
  );
  const before = useMemo(() => {
    const read = published ? readTemplate(published.template) : null;
    return read?.ok ? read.template : null;
  }, [published]);
  if (data && versions.length === 0)
    return <p className="quiet">{t('nothingIsPublishedYetSoThere')}</p>;
  return (
    <section aria-label={t('impact')}>
      <Select
        size="xs"
        label={t('theDraftAgainst')}
        allowDeselect={false}
        value={number === undefined ? null : String(number)}
        data={versions.map((one) => ({
          value: String(one.number),
          label: t('versionNumberPublishedAt', { number: one.number, at: ago(one.at, now) }),
        }))}
        onChange={(value) => setChosen(Number(value))}
      />
      {before && template && <Compared before={before} after={template} audience={audience} />}
    </section>
  );
}

function Compared({
  before,
  after,
  audience,
}: {
  before: Template;
  after: Template;
  audience: Parameters<typeof useImpact>[2];
}) {
  const { impact, running, problem } = useImpact(before, after, audience);
  const worse = (impact?.groups ?? [])
    .filter((group) => group.worse.length > 0)
    .reduce((sum, { people }) => sum + people, 0);
  return (
    <>
      {problem && <p role="alert">{problem}</p>}
      <p className={classes.line} role="status">
        {!impact
          ? t('fillingBothVersionsForEverybody')
          : impact.changed === 0
            ? t('thisChangesNoEmailOfPeople', {
                people: counted(impact.people, 'person', 'people'),
              })
            : t('thisChangesTheEmailOfChanged', {
                changed: figure(impact.changed),
                people: counted(impact.people, 'person', 'people'),
                which: worse > 0 ? t('worseOfThemNowSeeA', { worse: figure(worse) }) : '',
              })}
        {running && impact && t('soFar')}
      </p>
      {impact && impact.lost + impact.gained > 0 && (
        <p>
          {impact.lost > 0 &&
            t('getsNoEmailAnyMore', { gets: counted(impact.lost, 'person gets', 'people get') })}
          {impact.gained > 0 &&
            t('getsAnEmailNow', { gets: counted(impact.gained, 'person gets', 'people get') })}
        </p>
      )}
      <ol className={classes.variants}>
        {impact?.groups.slice(0, ROWS).map((group) => (
          <Group
            key={JSON.stringify([group.nodes, group.worse])}
            group={group}
            before={before}
            after={after}
          />
        ))}
      </ol>
    </>
  );
}

/** People whose mails change alike, before and after side by side. */
function Group({
  group,
  before,
  after,
}: {
  group: ImpactGroup;
  before: Template;
  after: Template;
}) {
  const lookAt = useLookAt();
  const { select } = useEdit();
  const old = useFilledDraft(before, group.person, true);
  const now = useFilledDraft(after, group.person, true);
  const nameOf = (node: string) => {
    const name = nodeNames(after)(node);
    return name === DELETED_PART ? nodeNames(before)(node) : name;
  };
  const [open, setOpen] = useState(false);
  const [both, setBoth] = useState(false);
  const marked = group.nodes.map(({ node }) => node);
  const nodes = open ? group.nodes : group.nodes.slice(0, 3);
  return (
    <li className={classes.variant}>
      <button
        type="button"
        className={classes.pair}
        aria-label={t('showTheDraftForOneOf')}
        onClick={() => lookAt(group.person)}
      >
        <MailThumb {...old} onShown={(frame) => markNodes(frame, marked)} />
        <MailThumb {...now} onShown={(frame) => markNodes(frame, marked)} />
      </button>
      {both && (
        <SideBySide before={old} after={now} nodes={group.nodes} onClose={() => setBoth(false)} />
      )}
      <div className={classes.about}>
        <span>{counted(group.people, 'person', 'people')}</span>
        <UnstyledButton className={classes.act} onClick={() => setBoth(true)}>
          {t('sideBySide')}
        </UnstyledButton>
        {group.worse.map((node) => (
          <span key={node} className={classes.broken}>
            <SeverityIcon severity="warning" size={12} /> {nameOf(node)} {t('isEmptyNow')}
          </span>
        ))}
        {nodes.map(({ node, change }) => (
          <UnstyledButton
            key={node}
            className={classes.act}
            onClick={() => select(node || 'envelope')}
          >
            {nameOf(node)} {CHANGE_WORDS[change]}
          </UnstyledButton>
        ))}
        {group.nodes.length > nodes.length && (
          <UnstyledButton className={classes.act} onClick={() => setOpen(true)}>
            {t('andNumberMore', { number: group.nodes.length - nodes.length })}
          </UnstyledButton>
        )}
      </div>
    </li>
  );
}
