import { Box } from '@mui/material';
import { readSaidIdentities, sayIdentities } from '@tally/core';
import { useQueries } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import type { LoadedModel } from '../../store/loaded-models.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { elementTableQuery } from '../../store/queries.ts';
import type { ComparedPictureProps } from '../../ui/model-picture.tsx';
import { CameraLink } from './camera-link.ts';
import { ModelView } from './model-view.tsx';

const NOTHING: ReadonlySet<number> = new Set();

/** Two states of the building one above the other, seen from one place; what differs is coloured, what is selected is framed in both. */
export default function ComparedModels({ before, after, colourOf }: ComparedPictureProps) {
  const [link] = useState(() => new CameraLink());
  return (
    <Box sx={{ display: 'grid', gridTemplateRows: '1fr 1fr', height: '100%', minHeight: 0 }}>
      {[
        { word: 'Before', revisions: before },
        { word: 'After', revisions: after },
      ].map(({ word, revisions }) => (
        <Box key={word} sx={{ position: 'relative', minHeight: 0, '& + &': { borderTop: 1, borderColor: 'divider' } }}>
          <OneState revisions={revisions} colourOf={colourOf} link={link} />
          <Box sx={{ position: 'absolute', left: 8, top: 6, fontSize: 12, color: 'text.secondary' }}>{word}</Box>
        </Box>
      ))}
    </Box>
  );
}

function OneState({
  revisions,
  colourOf,
  link,
}: {
  readonly revisions: readonly string[];
  readonly colourOf: ComparedPictureProps['colourOf'];
  readonly link: CameraLink;
}) {
  const models = useRevisionModels(revisions);
  return (
    <ModelView
      models={models}
      states={undefined}
      colourOf={colourOf}
      hidden={NOTHING}
      fitRequest={0}
      planLevelM={null}
      cut={null}
      use="select"
      link={link}
      isSmall
    />
  );
}

/** Revisions with their elements, whether they count or not. */
function useRevisionModels(ids: readonly string[]): readonly LoadedModel[] {
  const { project, sources, layer } = useProjectState('project', 'sources', 'layer');
  const tables = useQueries({
    queries: ids.map((id) => elementTableQuery(project.id, id)),
    combine: (all) => all.map((q) => q.data),
  });
  const { identities } = layer;
  return useMemo(() => {
    const said = readSaidIdentities(identities);
    const revisions = new Map(sources.flatMap((s) => s.revisions.map((r) => [r.id, r] as const)));
    const models: LoadedModel[] = [];
    let offset = 0;
    for (const [i, id] of ids.entries()) {
      const [revision, plain] = [revisions.get(id), tables[i]];
      if (!revision || !plain) continue;
      models.push({ revision, plain, table: sayIdentities(plain, said), offset });
      offset += plain.count;
    }
    return models;
  }, [ids, tables, sources, identities]);
}
