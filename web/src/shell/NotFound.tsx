import { useNavigate } from 'react-router';
import { Button } from '../ui/Button.tsx';
import { EmptyState } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';

/** Stands where an address leads nowhere, with the way back to the Bench. */
export function NotFound() {
  const { t } = useWords();
  const navigate = useNavigate();
  return (
    <EmptyState
      title={t('not-found')}
      action={
        <Button look="main" big onClick={() => navigate('/')}>
          {t('not-found.back')}
        </Button>
      }
    >
      {t('not-found.text')}
    </EmptyState>
  );
}
