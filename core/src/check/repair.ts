import { changeSite } from '../site';
import { putField, removeNode } from '../template/edit';
import { newBlock, newSection, type NewId } from '../template/make';
import type { Template } from '../template/schema';
import type { Repair } from './define';

/** Does what a repair says to a template that is being edited. `newId` gives an id that no other node has. */
export function repairTemplate(draft: Template, repair: Repair, newId: NewId): void {
  if ('put' in repair) putField(draft, repair.put.node, repair.put.path, repair.put.value);
  else if ('replace' in repair) {
    const { start, end, text, ...site } = repair.replace;
    changeSite(draft, site, (source) => source.slice(0, start) + text + source.slice(end));
  } else if ('take' in repair) removeNode(draft, repair.take);
  else draft.sections.push(newSection(newId, [newBlock(repair.add, newId)]));
}
