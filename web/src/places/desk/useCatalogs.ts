import { useEffect, useState } from 'react';
import { catalogsRead } from '@carafe/core/check';
import { fieldNamed, type Shape } from '@carafe/core/shape';
import type { Template } from '@carafe/core/template';

/**
 * The catalogs that the desk needs, with commas between; null for all of them. Others can be large,
 * and stay on the server. One that was needed once stays, and a name that is still being typed asks
 * for nothing.
 */
export function useCatalogs(template: Template | null, shape: Shape): string | null {
  const [catalogs, setCatalogs] = useState<string[] | null>(() =>
    template ? catalogsRead(template) : [],
  );
  useEffect(() => {
    if (!template || catalogs === null) return;
    const named = catalogsRead(template);
    const known = fieldNamed(shape, 'catalog')?.shape;
    if (named === null) setCatalogs(null);
    else if (known) {
      const more = named.filter((name) => fieldNamed(known, name) && !catalogs.includes(name));
      if (more.length > 0) setCatalogs([...catalogs, ...more]);
    }
  }, [template, shape, catalogs]);
  return catalogs === null ? null : catalogs.join(',');
}
