import { Box, Button, TextField } from '@mui/material';
import { type Condition, describeCondition, evaluateScope, type NamedScope, sayInWords } from '@tally/core';
import { useState } from 'react';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { refusalOf, useCommit } from '../../store/use-commit.ts';
import { useElements, useSample } from '../../store/use-elements.ts';
import { ConditionEditor } from '../../ui/condition-editor.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { Part } from './settings-part.tsx';

const NONE: readonly NamedScope[] = [];

/** Whether a condition uses a named scope. */
export function usesScope(condition: Condition, id: string): boolean {
  if ('named' in condition) return condition.named === id;
  if ('not' in condition) return usesScope(condition.not, id);
  if ('field' in condition) return false;
  return ('all' in condition ? condition.all : condition.any).some((c) => usesScope(c, id));
}

/** Scopes with a name, which rules use: changed here once, they change wherever they are used. */
export function NamedScopesPart() {
  const { project } = useProjectState('project');
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
        const uses = rules.filter((r) => usesScope(r.scope, scope.id)).length;
        return (
          <Box key={scope.id} sx={{ display: 'flex', alignItems: 'center', gap: 2, fontSize: 13 }}>
            <Box sx={{ fontWeight: 600, minWidth: 120 }}>{scope.name}</Box>
            <Box sx={{ flex: 1, color: 'text.secondary' }}>
              {sayInWords(describeCondition(scope.scope))}
              {uses > 0 ? `, used by ${uses} ${uses === 1 ? 'rule' : 'rules'}` : ''}
            </Box>
            <Box sx={{ fontFamily: FIGURES }}>{count(scope.scope)}</Box>
            <Button onClick={() => setDraft({ from: scope, name: scope.name, scope: scope.scope })}>Change</Button>
            <Button
              color="inherit"
              disabled={uses > 0}
              title={uses > 0 ? 'Rules use it' : undefined}
              onClick={() =>
                commit.mutate({
                  cause: `Named scope removed: ${scope.name}`,
                  diff: { removed: [{ kind: 'scope', id: scope.id, body: scope }] },
                })
              }
            >
              Remove
            </Button>
          </Box>
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
