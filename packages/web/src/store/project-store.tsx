import type { ProjectStateDto } from '@tally/core';
import { createContext, type ReactNode, useContext, useLayoutEffect, useState } from 'react';
import { createStore, type StoreApi, useStore } from 'zustand';
import { useShallow } from 'zustand/react/shallow';
import type { LoadedModels } from './loaded-models.ts';
import { useTables } from './use-tables.ts';

/** An open project as its pages see it: what is read of it, put together, and its elements. */
export interface OpenProject extends Omit<ProjectStateDto, 'project'> {
  /** What it is; the number of its last change is told by the log. */
  readonly project: Omit<ProjectStateDto['project'], 'seq'>;
  /** How its amounts are written. */
  readonly money: { readonly currency: string; readonly minorDigits: number };
  readonly elements: LoadedModels;
}

const StoreContext = createContext<StoreApi<OpenProject> | null>(null);

/** Holds the open project for all that is inside. */
export function ProjectProvider({
  state,
  children,
}: {
  readonly state: ProjectStateDto;
  readonly children: ReactNode;
}) {
  const elements = useTables(state);
  const [store] = useState(() => createStore<OpenProject>(() => openProject(null, state, elements)));
  useLayoutEffect(() => store.setState(openProject(store.getState(), state, elements), true), [store, state, elements]);
  return <StoreContext.Provider value={store}>{children}</StoreContext.Provider>;
}

/** Parts of something of the open project, by name: the same object while none of them changes. */
function useParts<T extends object, K extends keyof T>(
  of: (project: OpenProject) => T,
  names: readonly K[],
): Pick<T, K> {
  const store = useContext(StoreContext);
  if (!store) throw new Error('The open project is read by project pages only.');
  return useStore(
    store,
    useShallow((project) => {
      const whole = of(project);
      return Object.fromEntries(names.map((name) => [name, whole[name]])) as Pick<T, K>;
    }),
  );
}

const readWhole = (project: OpenProject) => project;
const readBasis = ({ basis }: OpenProject) => basis;

/**
 * Parts of the open project, by name: what asks for some is drawn again only when one of these changes.
 * @example const { project, layer } = useProjectState('project', 'layer')
 */
export const useProjectState = <K extends keyof OpenProject>(...names: K[]): Pick<OpenProject, K> =>
  useParts(readWhole, names);

/** Parts of what the project is priced with, by name. */
export const useBasis = <K extends keyof OpenProject['basis']>(...names: K[]): Pick<OpenProject['basis'], K> =>
  useParts(readBasis, names);

/** Puts the project together; parts that hold what they held keep their identity. */
function openProject(before: OpenProject | null, state: ProjectStateDto, elements: LoadedModels): OpenProject {
  const { project: whole, summary } = state;
  const { seq: _, ...project } = whole;
  const money = { currency: summary.currency, minorDigits: summary.minorDigits };
  return {
    ...state,
    project: keepFields(before?.project, project),
    basis: keepFields(before?.basis, state.basis),
    money: keepFields(before?.money, money),
    elements,
  };
}

/** The object before if all its fields are those of the one after. */
function keepFields<T extends object>(before: T | undefined, after: T): T {
  if (!before) return after;
  const names = Object.keys(after) as (keyof T)[];
  const isSame = names.length === Object.keys(before).length && names.every((n) => Object.is(before[n], after[n]));
  return isSame ? before : after;
}
