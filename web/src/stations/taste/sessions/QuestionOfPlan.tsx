import { SESSION_QUESTIONS } from '@wunsch/core/taste';
import { Choice, SelectField, TextField } from '../../../ui/Field.tsx';
import { Panel } from '../../../ui/Panel.tsx';
import { QuantityField } from '../../../ui/QuantityField.tsx';
import { useWords } from '../../../words/words.tsx';
import type { SessionDraft, SessionPlan } from './useSessionPlan.ts';

/** What a session is to find out, and how it is asked. */
export function QuestionOfPlan({ plan: { draft, change, nameOf } }: { plan: SessionPlan }) {
  const { t } = useWords();
  const isChoice = draft.question === 'different';
  return (
    <Panel title={t('panel.question')}>
      <div className="grid gap-3">
        <Choice
          label={t('panel.question')}
          value={draft.question}
          options={SESSION_QUESTIONS.map((q) => ({
            value: q,
            label: t(`panel.question.${q}`),
            note: t(`panel.question.${q}.note`),
          }))}
          onChange={(question) => change({ question })}
        />
        <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
          <TextField
            label={t('panel.title')}
            value={draft.title}
            onChange={(e) => change({ title: e.target.value })}
            maxLength={120}
            placeholder={t(`panel.question.${draft.question}`)}
            className="sm:col-span-2"
          />
          <TextField
            label={t('panel.place')}
            value={draft.place}
            onChange={(e) => change({ place: e.target.value })}
            maxLength={120}
          />
          {isChoice ? (
            <SelectField
              label={t('panel.test')}
              value={draft.test}
              onChange={(e) => change({ test: e.target.value as SessionDraft['test'] })}
            >
              {(['triangle', 'duo-trio'] as const).map((test) => (
                <option key={test} value={test}>
                  {t(`panel.test.${test}`)}
                </option>
              ))}
            </SelectField>
          ) : (
            <SelectField
              label={t('panel.card')}
              value={draft.card}
              onChange={(e) => change({ card: e.target.value as SessionDraft['card'] })}
            >
              {(['quick', 'full'] as const).map((card) => (
                <option key={card} value={card}>
                  {t(`panel.card.${card}`)}
                </option>
              ))}
            </SelectField>
          )}
          {draft.question === 'same' && (
            <>
              <QuantityField
                label={t('panel.margin')}
                dimension="number"
                value={draft.margin}
                onChange={(margin) => change({ margin: margin ?? 1 })}
                min={0.1}
                max={5}
              />
              <SelectField
                label={t('panel.reference')}
                value={draft.referenceId ?? draft.samples[0]?.id ?? ''}
                onChange={(e) => change({ referenceId: e.target.value })}
              >
                {draft.samples.map((s, i) => (
                  <option key={s.id} value={s.id}>
                    {nameOf(s) || t('panel.sample', { n: i + 1 })}
                  </option>
                ))}
              </SelectField>
            </>
          )}
        </div>
      </div>
    </Panel>
  );
}
