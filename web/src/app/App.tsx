import { lazy, Suspense } from "react";
import { Route, Switch } from "wouter";
import { ProjectsPage } from "../features/projects";
import { Notes } from "../shared/Notes";

const Bench = lazy(() => import("../features/bench").then((module) => ({ default: module.Bench })));

/** The two pages. */
export function App() {
  return (
    <>
      <Suspense fallback={<div className="grid h-full place-items-center text-base-content">Opening the bench …</div>}>
        <Switch>
          <Route path="/shot/:slug">{({ slug }) => <Bench slug={slug} />}</Route>
          <Route>
            <ProjectsPage />
          </Route>
        </Switch>
      </Suspense>
      <Notes />
    </>
  );
}
