import { lazy, Suspense } from 'react';
import { firstScreen } from './screens';
import { Navigate, createBrowserRouter } from 'react-router';
import { Bench } from '../bench/Bench';
import { Catalogue } from '../catalogue/Catalogue';
import { Desk } from '../capture/Desk';
import { Plan } from '../plan/Plan';
import { Sift } from '../sift/Sift';
import { Library } from '../sources/Library';
import { Topics } from '../topics/Topics';
import { TopicPage } from '../topics/TopicPage';
import { Loading } from '../ui/States';
import { Frame } from './Frame';
import { Go } from './Go';
import { Lost } from './Lost';

// The editor is most of the script, and only a piece needs it.
const PiecePage = lazy(() => import('../bench/PiecePage'));
const BringIn = lazy(() => import('../capture/BringIn'));
const ClipPage = lazy(() => import('../capture/ClipPage'));
const SignIn = lazy(() => import('./SignIn'));
const DigestPage = lazy(() => import('../topics/DigestPage'));
const RulesPage = lazy(() => import('../sift/RulesPage'));
const Review = lazy(() => import('../sources/Review'));
const Safekeeping = lazy(() => import('./Safekeeping'));
const WorkLogPage = lazy(() => import('./WorkLogPage'));
const NextToBegin = lazy(() => import('../choosing/NextToBegin'));
const FormatsPage = lazy(() => import('../bench/FormatsPage'));
const SeriesPage = lazy(() => import('../bench/SeriesPage'));
const ReadingPage = lazy(() => import('../bench/aloud/ReadingPage'));
const ShootingPage = lazy(() => import('../bench/aloud/ShootingPage'));
const ShortFormsPage = lazy(() => import('../bench/short/ShortFormsPage'));
const DayPlanPage = lazy(() => import('../capture/DayPlanPage'));

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
        path: 'bench/begin',
        element: (
          <Suspense fallback={<Loading what="Weighing the ideas" />}>
            <NextToBegin />
          </Suspense>
        ),
      },
      {
        path: 'bench/:number/:part?',
        element: (
          <Suspense fallback={<Loading what="Opening the piece" />}>
            <PiecePage />
          </Suspense>
        ),
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
      { path: 'catalogue', element: <Catalogue /> },
      { path: 'go/:name', element: <Go /> },
      { path: '*', element: <Lost /> },
    ],
  },
]);
