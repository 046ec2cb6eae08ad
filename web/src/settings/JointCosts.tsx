import { JOINT_PRODUCTS, type WorkshopPut } from '@wunsch/contract';
import { Choice } from '../ui/Field.tsx';
import { PriceField } from '../ui/PriceField.tsx';
import { useWords } from '../words/words.tsx';

type Joint = Pick<typeof WorkshopPut._output, 'joint' | 'jointValues'>;

/** How products that come of one step share what it costs: by mass, or by what they fetch. */
export function JointCosts({ draft, set }: { draft: Joint; set: (part: Partial<Joint>) => void }) {
  const { t, word, heavyUnit } = useWords();
  return (
    <fieldset className="mt-4 grid gap-3">
      <legend className="mb-1 text-[13px] text-ink-3">{t('settings.joint')}</legend>
      <Choice
        label={t('settings.joint')}
        value={draft.joint}
        options={[
          { value: 'mass', label: t('settings.joint.mass') },
          { value: 'value', label: t('settings.joint.value') },
        ]}
        onChange={(joint) => set({ joint })}
      />
      <p className="max-w-prose text-[13px] text-ink-3">{t('settings.joint.text')}</p>
      {draft.joint === 'value' && (
        <div className="grid gap-4 sm:grid-cols-3">
          {JOINT_PRODUCTS.map((product) => (
            <PriceField
              key={product}
              label={t('settings.joint.of', { what: word('material', product), unit: heavyUnit })}
              value={draft.jointValues[product] ?? 0}
              onChange={(value) => {
                const jointValues = { ...draft.jointValues };
                if (value > 0) jointValues[product] = value;
                else delete jointValues[product];
                set({ jointValues });
              }}
            />
          ))}
        </div>
      )}
    </fieldset>
  );
}
