import { Button, Menu } from '@mantine/core';
import { useSearchParams } from 'react-router';
import { api } from '../../app/api';
import { rulesApi } from '../../app/rulesApi';
import { notifyFailure, notifyOf, notifyRefused } from '../../parts/notify';

/** Copies a rule, as it stands here, within its shop or to another one, and goes there. */
export function CopyRule({ id, shop }: { id: string; shop: string }) {
  const { data } = api.useShopsQuery();
  const [copyRule] = rulesApi.useCopyRuleMutation();
  const [, setParams] = useSearchParams();
  const copy = async (to: string, name: string) => {
    const { data: made, error } = await copyRule({ id, shop: to });
    if (!made) {
      notifyFailure(error, 'Nothing was copied');
      return;
    }
    const { rule, lacks } = made;
    if (lacks.length > 0)
      notifyRefused(`Copied to ${name}, but it lacks something`, lacks.join(' '));
    else notifyOf('Copied', `“${rule.rule.label}” is in ${name} now.`);
    setParams({ shop: to, open: rule.id });
  };
  return (
    <Menu>
      <Menu.Target>
        <Button variant="subtle" size="compact-sm">
          Copy to …
        </Button>
      </Menu.Target>
      <Menu.Dropdown>
        {(data?.shops ?? []).map(({ id: to, name }) => (
          <Menu.Item key={to} onClick={() => void copy(to, name)}>
            {to === shop ? `${name} (this shop)` : name}
          </Menu.Item>
        ))}
      </Menu.Dropdown>
    </Menu>
  );
}
