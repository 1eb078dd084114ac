/** The page of projects and their shots. */
export { ProjectsPage } from "./ProjectsPage";
