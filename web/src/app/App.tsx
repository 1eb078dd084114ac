import { lazy, Suspense } from "react";
import { Route, Switch } from "wouter";
import { ProjectsPage } from "../features/projects";
import { Notes } from "../shared/Notes";
import { Part } from "../shared/Part";

const Bench = lazy(() =>
  import("../features/bench").then(
    (module) => ({ default: module.Bench }),
    () => Promise.reject(new Error("a part of it did not come from the server; reload the page")),
  ),
);

/** The two pages. */
export function App() {
  return (
    <>
      <Part name="The page">
        <Suspense
          fallback={<div className="grid h-full place-items-center text-base-content">Opening the bench …</div>}
        >
          <Switch>
            <Route path="/shot/:slug">{({ slug }) => <Bench key={slug} slug={slug} />}</Route>
            <Route>
              <ProjectsPage />
            </Route>
          </Switch>
        </Suspense>
      </Part>
      <Notes />
    </>
  );
}
