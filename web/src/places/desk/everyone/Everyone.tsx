import { useEffect, useState } from 'react';
import { ActionIcon, Button, ScrollArea, Select, Tabs } from '@mantine/core';
import { IconX } from '@tabler/icons-react';
import { skipToken } from '@reduxjs/toolkit/query';
import { occasionsApi } from '../../../app/occasionsApi';
import { useAppSelector } from '../../../app/store';
import { counted, figure } from '@carafe/core/words';
import { Checks } from './Checks';
import { Expectations } from './Expectations';
import { ImpactView } from './ImpactView';
import { Inbox } from './Inbox';
import { SendTests } from './SendTests';
import { useEveryone } from './useSurvey';
import { Variants } from './Variants';
import classes from './Everyone.module.css';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

const SEGMENT = 'segment:';

/** What everybody gets: each different outcome once, what is wrong with any, and whom an edit changes. */
export function Everyone() {
  const { setOpen, soFar, checked, problem, audience, setAudience, start, stop } = useEveryone();
  const shop = useAppSelector((s) => s.desk.template?.shop);
  const { data } = occasionsApi.useSegmentsQuery(shop ?? skipToken);
  const [tab, setTab] = useState<string | null>('variants');
  useEffect(() => {
    document.getElementById('everyone-title')?.focus();
  }, []);
  const errors = checked?.findings.filter(({ severity }) => severity === 'error').length ?? 0;
  return (
    <aside className={classes.panel} aria-label={t('everybody')}>
      <header className={classes.head}>
        <h2 id="everyone-title" tabIndex={-1}>
          {t('whatEverybodyGets')}
        </h2>
        <ActionIcon
          variant="subtle"
          color="gray"
          aria-label={t('closeWhatEverybodyGets')}
          onClick={() => setOpen(false)}
        >
          <IconX size={16} />
        </ActionIcon>
      </header>
      <div className={classes.audience}>
        <Select
          size="xs"
          aria-label={t('forWhom')}
          allowDeselect={false}
          value={audience.of === 'segment' ? `${SEGMENT}${audience.name}` : audience.of}
          data={[
            { value: 'reads', label: t('peopleWithTheDataItNeeds') },
            { value: 'all', label: t('everybodyInTheShop') },
            ...(data?.segments ?? []).map(({ name }) => ({
              value: `${SEGMENT}${name}`,
              label: name,
            })),
          ]}
          onChange={(value) =>
            setAudience(
              value?.startsWith(SEGMENT)
                ? { of: 'segment', name: value.slice(SEGMENT.length) }
                : { of: value === 'all' ? 'all' : 'reads' },
            )
          }
        />
        <span
          className="quiet"
          role="status"
          data-testid="survey-state"
          data-running={soFar?.running}
        >
          {!soFar
            ? t('filling')
            : soFar.running
              ? t('lookedOfPeopleFilled', {
                  looked: figure(soFar.looked),
                  people: figure(soFar.people),
                })
              : soFar.looked < soFar.people
                ? t('stoppedAtLookedOfPeople', {
                    looked: figure(soFar.looked),
                    people: figure(soFar.people),
                  })
                : counted(soFar.survey.people, 'person', 'people')}
        </span>
        {soFar?.running ? (
          <Button size="compact-xs" variant="default" onClick={stop}>
            {t('stop')}
          </Button>
        ) : (
          <Button size="compact-xs" variant="subtle" onClick={start}>
            {t('again')}
          </Button>
        )}
      </div>
      {problem && <p role="alert">{problem}</p>}
      <Tabs value={tab} onChange={setTab} keepMounted={false} className={classes.tabs}>
        <Tabs.List>
          <Tabs.Tab value="variants">{t('variants')}</Tabs.Tab>
          <Tabs.Tab value="checks">
            {t('checks')}
            {checked && checked.findings.length > 0 && ` ${errors > 0 ? `${errors}!` : ''}`}
          </Tabs.Tab>
          <Tabs.Tab value="expected">{t('expected')}</Tabs.Tab>
          <Tabs.Tab value="impact">{t('impact')}</Tabs.Tab>
          <Tabs.Tab value="inbox">{t('inbox')}</Tabs.Tab>
          <Tabs.Tab value="tests">{t('tests')}</Tabs.Tab>
        </Tabs.List>
        <ScrollArea className={classes.scroll} type="auto">
          {soFar?.survey.people === 0 && !soFar.running && (
            <p className={classes.none}>{t('nobodyIsInThisAudienceChoose')}</p>
          )}
          <Tabs.Panel value="variants">{soFar && <Variants soFar={soFar} />}</Tabs.Panel>
          <Tabs.Panel value="checks">
            <Checks checked={checked} />
          </Tabs.Panel>
          <Tabs.Panel value="expected">
            <Expectations survey={soFar?.survey ?? null} />
          </Tabs.Panel>
          <Tabs.Panel value="impact">
            <ImpactView />
          </Tabs.Panel>
          <Tabs.Panel value="inbox">{soFar && <Inbox soFar={soFar} />}</Tabs.Panel>
          <Tabs.Panel value="tests">{soFar && <SendTests soFar={soFar} />}</Tabs.Panel>
        </ScrollArea>
      </Tabs>
    </aside>
  );
}
