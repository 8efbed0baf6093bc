import { lazy, Suspense, type ComponentType } from 'react';
import { firstScreen } from './screens';
import { Navigate, createBrowserRouter } from 'react-router';
import { Loading } from '../ui/States';
import { Frame } from './Frame';
import { Go } from './Go';
import { Lost } from './Lost';

// Whoever opens one screen does not wait for the script of all the others; they come when this one stands.
const Bench = screen(() => import('../bench/Bench').then((it) => it.Bench));
const Catalogue = screen(() => import('../catalogue/Catalogue').then((it) => it.Catalogue));
const Desk = screen(() => import('../capture/Desk').then((it) => it.Desk));
const Plan = screen(() => import('../plan/Plan').then((it) => it.Plan));
const Sift = screen(() => import('../sift/Sift').then((it) => it.Sift));
const Library = screen(() => import('../sources/Library').then((it) => it.Library));
const Topics = screen(() => import('../topics/Topics').then((it) => it.Topics));
const TopicPage = screen(() => import('../topics/TopicPage').then((it) => it.TopicPage));
const OutletsView = lazy(() => import('../catalogue/OutletsView'));
const AskPage = lazy(() => import('../catalogue/asks/AskPage'));
const MessagesPage = lazy(() => import('../catalogue/asks/MessagesPage'));
const ReadersPage = lazy(() => import('../catalogue/letters/ReadersPage'));
const OnePage = lazy(() => import('../catalogue/pages/OnePage'));
const PagesPage = lazy(() => import('../catalogue/pages/PagesPage'));
const ComparisonPage = lazy(() => import('../catalogue/figures/ComparisonPage'));
const ReuseListPage = lazy(() => import('../catalogue/reuse/ReuseListPage'));
const ReusePage = lazy(() => import('../catalogue/reuse/ReusePage'));
const ClosePage = lazy(() => import('../catalogue/closing/ClosePage'));
const LearnedPage = lazy(() => import('../catalogue/closing/LearnedPage'));
const QueuePage = lazy(() => import('../catalogue/queue/QueuePage'));
const Covers = lazy(() => import('../catalogue/Covers'));
const YearPage = lazy(() => import('../catalogue/YearPage'));
const ReleasePage = lazy(() => import('../catalogue/ReleasePage'));
const BringIn = lazy(() => import('../capture/BringIn'));
const ClipPage = lazy(() => import('../capture/ClipPage'));
const SignIn = lazy(() => import('./SignIn'));
const DigestPage = lazy(() => import('../topics/DigestPage'));
const RulesPage = lazy(() => import('../sift/RulesPage'));
const Review = lazy(() => import('../sources/Review'));
const Safekeeping = lazy(() => import('./Safekeeping'));
const WorkLogPage = lazy(() => import('./WorkLogPage'));
const NextToBegin = lazy(() => import('../choosing/NextToBegin'));
const AnglesPage = lazy(() => import('../ideas/AnglesPage'));
const DecksPage = lazy(() => import('../ideas/decks/DecksPage'));
const ServicePage = lazy(() => import('../ideas/service/ServicePage'));
const IdeasPage = lazy(() => import('../ideas/IdeasPage'));
const FormatsPage = lazy(() => import('../bench/FormatsPage'));
const SeriesPage = lazy(() => import('../bench/SeriesPage'));
const ReadingPage = lazy(() => import('../bench/aloud/ReadingPage'));
const PlanOutlets = lazy(() => import('../plan/OutletsPage'));
const OccasionsPage = lazy(() => import('../plan/occasions/OccasionsPage'));
const SittingPage = lazy(() => import('../plan/sitting/SittingPage'));
const FiguresPage = lazy(() => import('../plan/figures/FiguresPage'));
const MovesPage = lazy(() => import('../plan/moves/MovesPage'));
const Stages = lazy(() => import('../plan/stages/Stages'));
const FillingPage = lazy(() => import('../plan/FillingPage'));
const MonthPage = lazy(() => import('../ideas/month/MonthPage'));
const ShootingPage = lazy(() => import('../bench/aloud/ShootingPage'));
const ShortFormsPage = lazy(() => import('../bench/short/ShortFormsPage'));
const DayPlanPage = lazy(() => import('../capture/DayPlanPage'));

/** One of the seven screens. Each is fetched in a quiet moment, so that a change of screen does not wait for it either. */
function screen(load: () => Promise<ComponentType>) {
  const Screen = lazy(() => load().then((it) => ({ default: it })));
  setTimeout(() => void load().catch(() => undefined), 3_000);
  return () => (
    <Suspense fallback={<Loading />}>
      <Screen />
    </Suspense>
  );
}

/** The screen that opens first: the Desk, or the one the writer chose. */
function First() {
  return <Navigate to={firstScreen()} replace />;
}

export const router = createBrowserRouter([
  {
    path: '/clip',
    element: (
      <Suspense>
        <ClipPage />
      </Suspense>
    ),
  },
  {
    path: '/sign-in',
    element: (
      <Suspense>
        <SignIn />
      </Suspense>
    ),
  },
  {
    path: '/read/:pieces',
    element: (
      <Suspense fallback={<Loading what="Opening the text" />}>
        <ReadingPage />
      </Suspense>
    ),
    errorElement: <Lost />,
  },
  {
    path: '/',
    element: <Frame />,
    hydrateFallbackElement: <></>,
    errorElement: <Lost />,
    children: [
      { index: true, element: <First /> },
      {
        path: 'desk/plan',
        element: (
          <Suspense fallback={<Loading what="Opening the plan" />}>
            <DayPlanPage />
          </Suspense>
        ),
      },
      {
        path: 'desk/done',
        element: (
          <Suspense fallback={<Loading />}>
            <WorkLogPage />
          </Suspense>
        ),
      },
      {
        path: 'papers',
        element: (
          <Suspense fallback={<Loading />}>
            <Safekeeping />
          </Suspense>
        ),
      },
      { path: 'desk/:day?', element: <Desk /> },
      {
        path: 'sift/flow',
        element: (
          <Suspense fallback={<Loading />}>
            <RulesPage />
          </Suspense>
        ),
      },
      { path: 'sift/:number?', element: <Sift /> },
      {
        path: 'library/new/:number?',
        element: (
          <Suspense fallback={<Loading />}>
            <Review />
          </Suspense>
        ),
      },
      { path: 'library/:kind?/:number?', element: <Library /> },
      { path: 'topics', element: <Topics /> },
      { path: 'topics/:number', element: <TopicPage /> },
      {
        path: 'topics/:number/digest',
        element: (
          <Suspense fallback={<Loading what="Putting the digest together" />}>
            <DigestPage />
          </Suspense>
        ),
      },
      { path: 'bench', element: <Bench /> },
      {
        path: 'bench/formats/:key?',
        element: (
          <Suspense fallback={<Loading what="Opening the formats" />}>
            <FormatsPage />
          </Suspense>
        ),
      },
      {
        path: 'bench/series/:number?',
        element: (
          <Suspense fallback={<Loading what="Opening the series" />}>
            <SeriesPage />
          </Suspense>
        ),
      },
      {
        path: 'bench/short',
        element: (
          <Suspense fallback={<Loading />}>
            <ShortFormsPage />
          </Suspense>
        ),
      },
      {
        path: 'shooting/:day?',
        element: (
          <Suspense fallback={<Loading />}>
            <ShootingPage />
          </Suspense>
        ),
      },
      {
        path: 'bench/ideas',
        element: (
          <Suspense fallback={<Loading what="Opening the ideas" />}>
            <IdeasPage />
          </Suspense>
        ),
      },
      {
        path: 'bench/ideas/angles',
        element: (
          <Suspense fallback={<Loading what="Opening the angles" />}>
            <AnglesPage />
          </Suspense>
        ),
      },
      {
        path: 'bench/ideas/decks',
        element: (
          <Suspense fallback={<Loading what="Opening the decks" />}>
            <DecksPage />
          </Suspense>
        ),
      },
      {
        path: 'bench/ideas/service',
        element: (
          <Suspense fallback={<Loading what="Opening the service" />}>
            <ServicePage />
          </Suspense>
        ),
      },
      {
        path: 'bench/begin',
        element: (
          <Suspense fallback={<Loading what="Weighing the ideas" />}>
            <NextToBegin />
          </Suspense>
        ),
      },
      {
        path: 'bench/:number/:part?',
        // Without a sign of loading between: it would stand for a third of a second, since React shows none for less.
        lazy: async () => ({ Component: (await import('../bench/PiecePage')).default }),
      },
      {
        path: 'bring-in/:id?',
        element: (
          <Suspense fallback={<Loading />}>
            <BringIn />
          </Suspense>
        ),
      },
      { path: 'plan', element: <Plan /> },
      {
        path: 'plan/filling',
        element: (
          <Suspense fallback={<Loading what="Filling the open dates" />}>
            <FillingPage />
          </Suspense>
        ),
      },
      {
        path: 'plan/proposal',
        element: (
          <Suspense fallback={<Loading what="Filling the open dates" />}>
            <MonthPage />
          </Suspense>
        ),
      },
      {
        path: 'plan/moves',
        element: (
          <Suspense fallback={<Loading />}>
            <MovesPage />
          </Suspense>
        ),
      },
      {
        path: 'plan/occasions',
        element: (
          <Suspense fallback={<Loading />}>
            <OccasionsPage />
          </Suspense>
        ),
      },
      {
        path: 'plan/sitting',
        element: (
          <Suspense fallback={<Loading />}>
            <SittingPage />
          </Suspense>
        ),
      },
      {
        path: 'plan/figures',
        element: (
          <Suspense fallback={<Loading />}>
            <FiguresPage />
          </Suspense>
        ),
      },
      {
        path: 'plan/stages',
        element: (
          <Suspense fallback={<Loading />}>
            <Stages />
          </Suspense>
        ),
      },
      {
        path: 'plan/outlets',
        element: (
          <Suspense fallback={<Loading />}>
            <PlanOutlets />
          </Suspense>
        ),
      },
      { path: 'catalogue', element: <Catalogue /> },
      {
        path: 'catalogue/outlets/:number?',
        element: (
          <Suspense fallback={<Loading />}>
            <OutletsView />
          </Suspense>
        ),
      },
      {
        path: 'catalogue/readers/:number',
        element: (
          <Suspense fallback={<Loading />}>
            <ReadersPage />
          </Suspense>
        ),
      },
      {
        path: 'catalogue/pages',
        element: (
          <Suspense fallback={<Loading />}>
            <PagesPage />
          </Suspense>
        ),
      },
      {
        path: 'catalogue/pages/:number',
        element: (
          <Suspense fallback={<Loading />}>
            <OnePage />
          </Suspense>
        ),
      },
      {
        path: 'catalogue/queue',
        element: (
          <Suspense fallback={<Loading />}>
            <QueuePage />
          </Suspense>
        ),
      },
      {
        path: 'catalogue/asks/:number?',
        element: (
          <Suspense fallback={<Loading />}>
            <AskPage />
          </Suspense>
        ),
      },
      {
        path: 'catalogue/messages',
        element: (
          <Suspense fallback={<Loading />}>
            <MessagesPage />
          </Suspense>
        ),
      },
      {
        path: 'catalogue/figures',
        element: (
          <Suspense fallback={<Loading />}>
            <ComparisonPage />
          </Suspense>
        ),
      },
      {
        path: 'catalogue/again',
        element: (
          <Suspense fallback={<Loading />}>
            <ReuseListPage />
          </Suspense>
        ),
      },
      {
        path: 'catalogue/again/:piece',
        element: (
          <Suspense fallback={<Loading />}>
            <ReusePage />
          </Suspense>
        ),
      },
      {
        path: 'catalogue/learned',
        element: (
          <Suspense fallback={<Loading />}>
            <LearnedPage />
          </Suspense>
        ),
      },
      {
        path: 'catalogue/close/:piece',
        element: (
          <Suspense fallback={<Loading />}>
            <ClosePage />
          </Suspense>
        ),
      },
      {
        path: 'catalogue/covers',
        element: (
          <Suspense fallback={<Loading />}>
            <Covers />
          </Suspense>
        ),
      },
      {
        path: 'catalogue/years/:year',
        element: (
          <Suspense fallback={<Loading />}>
            <YearPage />
          </Suspense>
        ),
      },
      {
        path: 'catalogue/:number',
        element: (
          <Suspense fallback={<Loading />}>
            <ReleasePage />
          </Suspense>
        ),
      },
      { path: 'go/:name', element: <Go /> },
      { path: '*', element: <Lost /> },
    ],
  },
]);
