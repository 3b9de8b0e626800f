import { Box, Button, TextField } from '@mui/material';
import { type Condition, evaluateScope, type NamedScope, usesScope } from '@tally/core';
import { useState } from 'react';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { refusalOf, useCommit } from '../../store/use-commit.ts';
import { useElements, useSample } from '../../store/use-elements.ts';
import { ConditionEditor } from '../../ui/condition-editor.tsx';
import { ScopeRow } from './scope-row.tsx';
import { Part } from './settings-part.tsx';

const NONE: readonly NamedScope[] = [];

/** Scopes with a name, which rules use: changed here once, they change wherever they are used. */
export function NamedScopesPart() {
  const { project, views } = useProjectState('project', 'views');
  const { scopes = NONE, rules } = useBasis('scopes', 'rules');
  const { tables } = useElements();
  const sample = useSample();
  const commit = useCommit(project.id);
  const [draft, setDraft] = useState<{ readonly from: NamedScope | null; name: string; scope: Condition } | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const count = (scope: Condition) =>
    tables.reduce((n, t) => n + evaluateScope(scope, t).reduce((sum, hit) => sum + hit, 0), 0);
  const keep = async () => {
    if (!draft) return;
    const { from, name, scope } = draft;
    const id = from?.id ?? `scope-${crypto.randomUUID().slice(0, 8)}`;
    const body = { id, name: name.trim(), scope: JSON.parse(JSON.stringify(scope)) as Condition };
    const entry = { kind: 'scope', id };
    const diff = from ? { updated: [{ ...entry, from, to: body }] } : { added: [{ ...entry, body }] };
    const refused = await refusalOf(commit.mutateAsync({ cause: `Named scope: ${body.name}`, diff }));
    setRefusal(refused);
    if (refused === null) setDraft(null);
  };
  return (
    <Part
      title="Named scopes"
      note="Which elements are meant by a name. Rules use them; changed here, they change there."
    >
      {scopes.map((scope) => {
        const tables = Object.values(views).filter((v) => v.scope && usesScope(v.scope, scope.id)).length;
        const uses = [...rules, ...scopes].filter((r) => usesScope(r.scope, scope.id)).length + tables;
        return (
          <ScopeRow
            key={scope.id}
            name={scope.name}
            scope={scope.scope}
            note={uses > 0 ? `, used ${uses === 1 ? 'once' : `${uses} times`}` : ''}
            count={count(scope.scope)}
            keepsWhy={uses > 0 ? 'Rules, tables or other scopes use it' : undefined}
            onChange={() => setDraft({ from: scope, name: scope.name, scope: scope.scope })}
            onRemove={() =>
              commit.mutate({
                cause: `Named scope removed: ${scope.name}`,
                diff: { removed: [{ kind: 'scope', id: scope.id, body: scope }] },
              })
            }
          />
        );
      })}
      {draft ? (
        <Box sx={{ display: 'grid', gap: 1, borderTop: 1, borderColor: 'divider', pt: 1.5 }}>
          <TextField
            label="Name of the scope"
            value={draft.name}
            autoFocus
            onChange={(e) => setDraft({ ...draft, name: e.target.value })}
          />
          <ConditionEditor
            scope={draft.scope}
            tables={tables}
            sample={sample}
            onChange={(scope) => setDraft({ ...draft, scope })}
          />
          {refusal && (
            <Box role="alert" sx={{ color: 'error.main', fontSize: 13 }}>
              {refusal}
            </Box>
          )}
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
            <Box sx={{ flex: 1, fontSize: 13 }}>Catches {count(draft.scope)} elements</Box>
            <Button color="inherit" onClick={() => setDraft(null)}>
              Cancel
            </Button>
            <Button
              variant="contained"
              disabled={
                draft.name.trim() === '' ||
                commit.isPending ||
                scopes.some((s) => s !== draft.from && s.name === draft.name.trim())
              }
              onClick={() => void keep()}
            >
              Keep the scope
            </Button>
          </Box>
        </Box>
      ) : (
        <Box>
          <Button
            onClick={() => setDraft({ from: null, name: '', scope: { field: 'class', op: 'is', value: 'IfcWall' } })}
          >
            Add a named scope
          </Button>
        </Box>
      )}
    </Part>
  );
}
