import { useAppSelector } from '../../app/store';
import { useDesk } from './useDesk';

/**
 * Where in the list the recipient stands whose mail is seen. It follows the list with the mail: what tells of a
 * recipient changes together with what they get. Where they are in the list no more, the place that the list is at.
 */
export function useShownIndex(): number {
  const { person } = useDesk();
  return useAppSelector(({ desk: { recipients, index } }) => {
    if (recipients[index]?.id === person) return index;
    const at = recipients.findIndex(({ id }) => id === person);
    return at < 0 ? index : at;
  });
}
