import { useNavigate } from 'react-router';
import { Button } from '../ui/Button.tsx';
import { EmptyState } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';

/** Stands where an address leads nowhere, with the way back to the Bench; `isPage` where nothing else stands there. */
export function NotFound({ isPage = true }: { isPage?: boolean }) {
  const { t } = useWords();
  const navigate = useNavigate();
  return (
    <EmptyState
      title={t('not-found')}
      isPage={isPage}
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
