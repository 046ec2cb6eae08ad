import type { TableLook } from '@wunsch/contract';
import { useSearchParams } from 'react-router';
import type { BookLook } from '../../ui/BookTable.tsx';
import { KeptLooks } from './KeptLooks.tsx';

/**
 * How a table is looked at, kept in the page's address: what is sought, how it is sorted, and whatever else the page keeps there. So a reload, a
 * bookmark and a kept look all show the same.
 */
export function useTableLook(table: TableLook['table']): BookLook {
  const [params, setParams] = useSearchParams();
  const sort = params.get('sort');
  return {
    search: params.get('find') ?? '',
    sorting: sort ? [{ id: sort.replace(/^-/, ''), desc: sort.startsWith('-') }] : [],
    onLook: ({ search, sorting }) =>
      setParams(
        (old) => {
          if (search) old.set('find', search);
          else old.delete('find');
          const [by] = sorting;
          if (by) old.set('sort', `${by.desc ? '-' : ''}${by.id}`);
          else old.delete('sort');
          return old;
        },
        { replace: true },
      ),
    kept: <KeptLooks table={table} />,
  };
}
