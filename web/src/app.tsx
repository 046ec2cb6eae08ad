import { lazy, Suspense, useEffect, useMemo, useState } from 'react';
import { createBrowserRouter, RouterProvider, useRouteError } from 'react-router';
import { NotFound } from './shell/NotFound.tsx';
import { SessionContext, useSessionView } from './shell/session.tsx';
import { Shell } from './shell/Shell.tsx';
import { Wordmark } from './shell/glyphs.tsx';
import { Toaster } from './ui/Toaster.tsx';
import { RoomWords, useWords, WordsProvider, type Language } from './words/words.tsx';
import BenchPage from './stations/bench/BenchPage.tsx';

const SignIn = lazy(() => import('./welcome/SignIn.tsx'));
const FirstRun = lazy(() => import('./welcome/FirstRun.tsx'));
const BatchPage = lazy(() => import('./batch/BatchPage.tsx'));
const BeansPage = lazy(() => import('./stations/beans/BeansPage.tsx'));
const LotPage = lazy(() => import('./stations/beans/LotPage.tsx'));
const SortPage = lazy(() => import('./stations/sort/SortPage.tsx'));
const RoastPage = lazy(() => import('./stations/roast/RoastPage.tsx'));
const ComparePage = lazy(() => import('./stations/roast/ComparePage.tsx'));
const WinnowPage = lazy(() => import('./stations/winnow/WinnowPage.tsx'));
const RecipePage = lazy(() => import('./stations/recipe/RecipePage.tsx'));
const RecipeBook = lazy(() =>
  import('./stations/recipe/RecipePage.tsx').then((m) => ({ default: m.RecipeBook })),
);
const IngredientsPage = lazy(() => import('./stations/recipe/IngredientsPage.tsx'));
const TrialsPage = lazy(() => import('./stations/recipe/TrialsPage.tsx'));
const RestPage = lazy(() => import('./stations/rest/RestPage.tsx'));
const MachinePage = lazy(() => import('./stations/grind/MachinePage.tsx'));
const GrindPage = lazy(() => import('./stations/grind/GrindPage.tsx'));
const TemperPage = lazy(() => import('./stations/temper/TemperPage.tsx'));
const MouldPage = lazy(() => import('./stations/mould/MouldPage.tsx'));
const FillingsPage = lazy(() => import('./stations/mould/FillingsPage.tsx'));
const LabelPage = lazy(() => import('./stations/mould/LabelPage.tsx'));
const TastePage = lazy(() => import('./stations/taste/TastePage.tsx'));
const SessionsPage = lazy(() => import('./stations/taste/sessions/SessionsPage.tsx'));
const PlanSession = lazy(() => import('./stations/taste/sessions/PlanSession.tsx'));
const SessionPage = lazy(() => import('./stations/taste/sessions/SessionPage.tsx'));
const CardsPage = lazy(() => import('./stations/taste/sessions/CardsPage.tsx'));
const NextTrialPage = lazy(() => import('./stations/taste/next/NextTrialPage.tsx'));
const TastedPage = lazy(() => import('./stations/taste/TastedPage.tsx'));
const GuestPage = lazy(() => import('./stations/taste/sessions/GuestPage.tsx'));
const PublicBarPage = lazy(() => import('./publicBar/PublicBarPage.tsx'));
const NewCase = lazy(() => import('./cases/NewCase.tsx'));
const CasePage = lazy(() => import('./cases/CasePage.tsx'));
const ClassesPage = lazy(() => import('./classes/ClassesPage.tsx'));
const ClassPage = lazy(() => import('./classes/ClassPage.tsx'));
const SeatPage = lazy(() => import('./classes/SeatPage.tsx'));
const CountPage = lazy(() => import('./ledger/stock/CountPage.tsx'));
const CauseTablePage = lazy(() => import('./cases/CauseTablePage.tsx'));
const ForecastsPage = lazy(() => import('./ledger/forecasts/ForecastsPage.tsx'));
const ImportPage = lazy(() => import('./ledger/import/ImportPage.tsx'));
const YearLetter = lazy(() => import('./ledger/yield/YearLetter.tsx'));
const LedgerPage = lazy(() => import('./ledger/LedgerPage.tsx'));
const PalatePage = lazy(() => import('./practice/PalatePage.tsx'));
const CardsPracticePage = lazy(() => import('./practice/CardsPage.tsx'));
const PersonPage = lazy(() => import('./skills/PersonPage.tsx'));
const PracticePage = lazy(() => import('./practice/PracticePage.tsx'));
const PracticeRoom = lazy(() => import('./practice/PracticeRoom.tsx'));
const PlanPage = lazy(() => import('./plan/PlanPage.tsx'));
const PlanListPage = lazy(() => import('./plan/PlanListPage.tsx'));
const SettingsPage = lazy(() => import('./settings/SettingsPage.tsx'));

const LANGUAGE = 'wunsch.language';

/** A page that failed says so in words and offers the way back; nothing entered is lost by it. */
function Failed() {
  const { t } = useWords();
  const error = useRouteError();
  return (
    <main className="mx-auto grid max-w-xl gap-3 p-6">
      <h1 className="text-[26px]">{t('failed')}</h1>
      <p className="text-[15px]">{t('failed.text')}</p>
      <p>
        <a href="/" className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4">
          {t('failed.back')}
        </a>
      </p>
      <details>
        <summary className="min-h-8 cursor-pointer text-ink-3">{t('detail')}</summary>
        <pre className="overflow-auto text-[12px]">
          {error instanceof Error ? error.message : String(error)}
        </pre>
      </details>
    </main>
  );
}

function useRouter(onLanguage: (language: Language) => void) {
  return useMemo(() => {
    const station = (path: string, page: React.ReactNode) => [
      { path, element: page },
      { path: `${path}/:batchId`, element: page },
    ];
    return createBrowserRouter([
      {
        path: '/',
        element: <Shell onLanguage={onLanguage} />,
        errorElement: <Failed />,
        children: [
          { index: true, element: <BenchPage /> },
          { path: 'batch/:batchId', element: <BatchPage /> },
          { path: 'beans', element: <BeansPage /> },
          { path: 'beans/:lotId', element: <LotPage /> },
          ...station('sort', <SortPage />),
          { path: 'roast/compare', element: <ComparePage /> },
          ...station('roast', <RoastPage />),
          ...station('winnow', <WinnowPage />),
          { path: 'recipe/ingredients', element: <IngredientsPage /> },
          { path: 'recipe/trials', element: <TrialsPage /> },
          { path: 'rest', element: <RestPage /> },
          { path: 'machine/:machineId', element: <MachinePage /> },
          { path: 'recipe/write', element: <RecipeBook /> },
          { path: 'recipe/write/:recipeId', element: <RecipeBook /> },
          ...station('recipe', <RecipePage />),
          ...station('grind', <GrindPage />),
          ...station('temper', <TemperPage />),
          { path: 'mould/fillings', element: <FillingsPage /> },
          ...station('mould', <MouldPage />),
          { path: 'taste/batches', element: <TastedPage /> },
          { path: 'taste/next', element: <NextTrialPage /> },
          { path: 'taste/sessions', element: <SessionsPage /> },
          { path: 'taste/sessions/new', element: <PlanSession /> },
          { path: 'taste/sessions/:sessionId', element: <SessionPage /> },
          { path: 'taste/sessions/:sessionId/plan', element: <PlanSession /> },
          { path: 'taste/sessions/:sessionId/cards', element: <CardsPage /> },
          { path: 'taste/sessions/:sessionId/paper/:seatId', element: <CardsPage /> },
          ...station('taste', <TastePage />),
          { path: 'label/:batchId/:parcelId', element: <LabelPage /> },
          { path: 'case/new', element: <NewCase /> },
          { path: 'case/:caseId', element: <CasePage /> },
          { path: 'people/me', element: <PersonPage /> },
          { path: 'people/:personId', element: <PersonPage /> },
          { path: 'practice', element: <PracticePage /> },
          { path: 'practice/palate', element: <PalatePage /> },
          { path: 'practice/cards', element: <CardsPracticePage /> },
          { path: 'practice/:practiceId/:station/:batchId', element: <PracticeRoom /> },
          { path: 'plan', element: <PlanPage /> },
          { path: 'plan/list', element: <PlanListPage /> },
          { path: 'plan/classes', element: <ClassesPage /> },
          { path: 'plan/classes/:classId', element: <ClassPage /> },
          { path: 'ledger', element: <LedgerPage /> },
          { path: 'ledger/count', element: <CountPage /> },
          { path: 'ledger/forecasts', element: <ForecastsPage /> },
          { path: 'ledger/causes', element: <CauseTablePage /> },
          { path: 'ledger/import', element: <ImportPage /> },
          { path: 'ledger/letter', element: <YearLetter /> },
          { path: 'settings', element: <SettingsPage /> },
          { path: '*', element: <NotFound /> },
        ],
      },
    ]);
  }, [onLanguage]);
}

/** What the code on a bar opens is for anyone, whoever else is signed in on the device. */
const isBar = () => /^\/bar\/[^/]/.test(location.pathname);

/** Guests of a class have a page of their own, too. */
const isSeat = () => /^\/class\/[^/]/.test(location.pathname);

/** Guests of a tasting have a page of their own, whoever else is signed in on the device. */
const isGuest = () => /^\/join(\/|$)/.test(location.pathname);

function Opening({ away }: { away: boolean }) {
  const { t } = useWords();
  return (
    <main className="grid min-h-dvh place-content-center gap-3 p-6 text-center">
      <h1>
        <Wordmark size={44} />
      </h1>
      <p role="status" className="text-[15px] text-ink-2">
        {t(away ? 'error.away' : 'opening')}
      </p>
    </main>
  );
}

/** The whole page: opening, first run, sign-in, or the workshop. */
export function App() {
  const { data: session, error } = useSessionView();
  const [chosen, setChosen] = useState<Language | null>(
    () => localStorage.getItem(LANGUAGE) as Language | null,
  );
  const language: Language =
    chosen ?? session?.greeting?.language ?? (navigator.language.startsWith('de') ? 'de' : 'en');
  const setLanguage = useMemo(
    () => (next: Language) => {
      localStorage.setItem(LANGUAGE, next);
      setChosen(next);
    },
    [],
  );
  useEffect(() => {
    document.documentElement.lang = language;
  }, [language]);
  const router = useRouter(setLanguage);
  const inside =
    session?.state === 'signed-in' && session.person && session.workshop
      ? { person: session.person, workshop: session.workshop }
      : null;
  // Made anew only when the server's answer changes, so that pages below are not drawn again for nothing.
  const mind = useMemo(() => inside, [session]); // eslint-disable-line react-hooks/exhaustive-deps
  return (
    <WordsProvider language={language} settings={session?.workshop ?? null}>
      <Toaster>
        <Suspense fallback={<Opening away={false} />}>
          {isBar() || isSeat() || isGuest() ? (
            <RoomWords>
              {isBar() ? (
                <PublicBarPage onLanguage={setLanguage} />
              ) : isSeat() ? (
                <SeatPage onLanguage={setLanguage} />
              ) : (
                <GuestPage />
              )}
            </RoomWords>
          ) : mind ? (
            <SessionContext value={mind}>
              <RouterProvider router={router} />
            </SessionContext>
          ) : !session || session.state === 'opening' ? (
            <Opening away={Boolean(error) && !session} />
          ) : session.state === 'first-run' ? (
            <RoomWords>
              <FirstRun needsCode={session.needsCode} onLanguage={setLanguage} />
            </RoomWords>
          ) : (
            <RoomWords>
              <SignIn session={session} />
            </RoomWords>
          )}
        </Suspense>
      </Toaster>
    </WordsProvider>
  );
}
