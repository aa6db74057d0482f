import type { ProjectLook } from "@chronometra/contract";
import { useOutletContext } from "react-router";

/** The project that the page within its frame is about. */
export const useProject = (): ProjectLook => useOutletContext<ProjectLook>();
