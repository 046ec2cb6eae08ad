import { useState } from 'react';
import type { IngredientRecord } from '@wunsch/contract';
import { kitchenMass } from '@wunsch/core/recipe';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { TextField } from '../../ui/Field.tsx';
import { useWords } from '../../words/words.tsx';

/** A weight from spoons, cups or a pinch, by the ingredient's density, and marked as rough. */
export function KitchenMeasure({
  ingredient,
  bowlMl,
  onMass,
}: {
  ingredient: IngredientRecord | undefined;
  /** Volume of what is in the bowl, for shares such as "a third". */
  bowlMl?: number;
  onMass: (massMg: number, uMg: number) => void;
}) {
  const words = useWords();
  const { t } = words;
  const [open, setOpen] = useState(false);
  const [text, setText] = useState('');
  if (!ingredient?.densityGPerMl) return <span />;
  const found = kitchenMass(text, ingredient.densityGPerMl, bowlMl);
  const what = words.word('ingredient', ingredient.name);
  return (
    <>
      <Button
        look="quiet"
        onClick={() => setOpen(true)}
        aria-label={t('kitchen.open', { what })}
        className="px-2"
      >
        {t('kitchen')}
      </Button>
      {open && (
        <Dialog
          open
          onClose={() => setOpen(false)}
          title={t('kitchen.title', { what })}
          description={t('kitchen.hint')}
        >
          <form
            className="grid gap-3"
            onSubmit={(e) => {
              e.preventDefault();
              if (!found) return;
              onMass(found.massMg, found.uMg);
              setOpen(false);
            }}
          >
            <TextField
              label={t('kitchen.measure')}
              value={text}
              onChange={(e) => setText(e.target.value)}
              autoFocus
              error={text.trim() && !found ? t('kitchen.unknown') : null}
              hint={
                found
                  ? t('kitchen.result', {
                      mass: words.mass(found.massMg),
                      u: words.mass(found.uMg),
                      density: words.number(ingredient.densityGPerMl, 2),
                    })
                  : undefined
              }
            />
            <Button type="submit" look="main" big disabled={!found}>
              {t('kitchen.take')}
            </Button>
          </form>
        </Dialog>
      )}
    </>
  );
}
