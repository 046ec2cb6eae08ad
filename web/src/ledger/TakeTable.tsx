import { Button } from '../ui/Button.tsx';
import { useWords } from '../words/words.tsx';
import { csvOf, saveFile, xlsxOf, type TableFile } from './tableFiles.ts';

/** Takes what is shown away, as text any program reads or as a spreadsheet. */
export function TakeTable({ table }: { table: () => TableFile }) {
  const { t } = useWords();
  return (
    <>
      <Button
        onClick={() => {
          const { name, ...rest } = table();
          saveFile(`${name}.csv`, new Blob(['\uFEFF', csvOf(rest)], { type: 'text/csv;charset=utf-8' }));
        }}
      >
        {t('take.csv')}
      </Button>
      <Button
        onClick={() => {
          const made = table();
          void xlsxOf(made).then((file) => saveFile(`${made.name}.xlsx`, file));
        }}
      >
        {t('take.xlsx')}
      </Button>
    </>
  );
}
