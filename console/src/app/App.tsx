import { lazy, Suspense } from 'react';
import { Route, Routes } from 'react-router';
import { SignedIn } from '../features/access/SignedIn';
import { ConnectionPage } from '../features/connections/ConnectionPage';
import { ConnectionsPage } from '../features/connections/ConnectionsPage';
import { CrosswalkPage } from '../features/crosswalks/CrosswalkPage';
import { CrosswalksPage } from '../features/crosswalks/CrosswalksPage';
import { JobsPage } from '../features/jobs/JobsPage';
import { KeptPage } from '../features/kept/KeptPage';
import { OverviewPage } from '../features/overview/OverviewPage';
import { HistoryPage } from '../features/records/HistoryPage';
import { RecordsPage } from '../features/records/RecordsPage';
import { RejectsPage } from '../features/rejects/RejectsPage';
import { HandOverPage } from '../features/runs/HandOverPage';
import { RunPage } from '../features/runs/RunPage';
import { RunsPage } from '../features/runs/RunsPage';
import { SourcesPage } from '../features/sources/SourcesPage';
import { Empty } from '../ui/Empty';
import { Loading } from '../ui/Loading';
import { Layout } from './Layout';

// The editor is large: it comes when the first job is opened.
const JobPage = lazy(() => import('../features/jobs/JobPage').then((module) => ({ default: module.JobPage })));

export function App() {
  return (
    <SignedIn>
      <Layout>
        <Suspense fallback={<Loading rows={6} />}>
          <Routes>
            <Route path="/" element={<OverviewPage />} />
            <Route path="/jobs" element={<JobsPage />} />
            <Route path="/jobs/:name" element={<JobPage />} />
            <Route path="/runs" element={<RunsPage />} />
            <Route path="/runs/:id" element={<RunPage />} />
            <Route path="/runs/:id/hand-over" element={<HandOverPage />} />
            <Route path="/runs/:id/:part" element={<RunPage />} />
            <Route path="/rejects" element={<RejectsPage />} />
            <Route path="/crosswalks" element={<CrosswalksPage />} />
            <Route path="/crosswalks/:name" element={<CrosswalkPage />} />
            <Route path="/sources" element={<SourcesPage />} />
            <Route path="/connections" element={<ConnectionsPage />} />
            <Route path="/connections/:name" element={<ConnectionPage />} />
            <Route path="/connections/:name/:records" element={<ConnectionPage />} />
            <Route path="/connections/:name/:records/history" element={<HistoryPage />} />
            <Route path="/connections/:name/:records/found" element={<RecordsPage />} />
            <Route path="/kept" element={<KeptPage />} />
            <Route
              path="*"
              element={<Empty title="There is no such page.">The rail on the left leads to all places.</Empty>}
            />
          </Routes>
        </Suspense>
      </Layout>
    </SignedIn>
  );
}
