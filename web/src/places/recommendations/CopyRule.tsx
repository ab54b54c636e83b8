import { Button, Menu } from '@mantine/core';
import { useSearchParams } from 'react-router';
import { api } from '../../app/api';
import { rulesApi } from '../../app/rulesApi';
import { notifyFailure, notifyOf, notifyRefused } from '../../parts/notify';
import { wordsOf } from '../../words';

const t = wordsOf('recommendations');

/** Copies a rule, as it stands here, within its shop or to another one, and goes there. */
export function CopyRule({ id, shop }: { id: string; shop: string }) {
  const { data } = api.useShopsQuery();
  const [copyRule] = rulesApi.useCopyRuleMutation();
  const [, setParams] = useSearchParams();
  const copy = async (to: string, name: string) => {
    const { data: made, error } = await copyRule({ id, shop: to });
    if (!made) {
      notifyFailure(error, t('nothingWasCopied'));
      return;
    }
    const { rule, lacks } = made;
    if (lacks.length > 0) notifyRefused(t('copiedToNameButItLacks', { name }), lacks.join(' '));
    else notifyOf(t('copied'), t('labelIsInNameNow', { label: rule.rule.label, name }));
    setParams({ shop: to, open: rule.id });
  };
  return (
    <Menu>
      <Menu.Target>
        <Button variant="subtle" size="compact-sm">
          {t('copyTo')}
        </Button>
      </Menu.Target>
      <Menu.Dropdown>
        {(data?.shops ?? []).map(({ id: to, name }) => (
          <Menu.Item key={to} onClick={() => void copy(to, name)}>
            {to === shop ? t('nameThisShop', { name }) : name}
          </Menu.Item>
        ))}
      </Menu.Dropdown>
    </Menu>
  );
}
