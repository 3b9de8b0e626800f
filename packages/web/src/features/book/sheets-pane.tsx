import { Box, Button, TextField } from '@mui/material';
import {
  findDecimalSign,
  isSignSure,
  makeProfile,
  type PriceFileDto,
  type PriceSheetDto,
  type SheetColumn,
  type SheetProfile,
} from '@tally/core';
import { useMemo, useRef, useState } from 'react';
import { postJson, uploadFile } from '../../store/client.ts';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { usePriceFolder } from '../../store/queries.ts';
import { useProblemNotice } from '../../store/use-commit.ts';
import { DecimalSignField } from '../../ui/decimal-sign-field.tsx';
import { FileInput } from '../../ui/file-input.tsx';
import { showTime } from '../../ui/format.ts';
import { type ChosenColumns, SheetColumns } from '../../ui/sheet-columns.tsx';
import { BookList, PANE_SX, SHEET_SX } from './book-list.tsx';
import { PriceComparisonView } from './price-comparison.tsx';

/** Price sheets: those that are known, and the one that was brought, from choosing its columns to taking its prices over. */
export function SheetsPane() {
  const { project, priceSheets } = useProjectState('project', 'priceSheets');
  const basis = useBasis('items');
  const [brought, setBrought] = useState<PriceSheetDto | null>(null);
  const [isReading, setReading] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const notice = useProblemNotice();
  const names = Object.keys(priceSheets).sort();
  const bring = (file: File) => uploadFile<PriceSheetDto>(`/projects/${project.id}/price-sheets`, file);
  const fromFolder = (fileName: string) =>
    postJson<PriceSheetDto>(`/projects/${project.id}/price-folder`, { fileName });
  const read = async (from: () => Promise<PriceSheetDto>) => {
    setReading(true);
    try {
      setBrought(await from());
    } catch (failed) {
      notice(failed);
    } finally {
      setReading(false);
    }
  };
  const countOf = (source: string) => basis.items.filter((i) => i.source === source).length;
  return (
    <Box sx={PANE_SX}>
      <BookList
        label="Price sheets"
        entries={names.map((name) => ({
          id: name,
          title: name,
          note: `${countOf(name)} items have their price from it`,
        }))}
        chosen={brought?.isKnown ? brought.source : null}
        onChoose={() => input.current?.click()}
        addLabel={isReading ? 'Reading the sheet' : 'Bring a price sheet'}
        onAdd={() => input.current?.click()}
      />
      <FileInput
        ref={input}
        label="Price sheet file"
        accept=".xlsx,.csv,.txt"
        onFile={(file) => void read(() => bring(file))}
      />
      {brought ? (
        <BroughtSheet key={brought.fileHash + brought.fileName} brought={brought} onDone={() => setBrought(null)} />
      ) : (
        <Box sx={{ ...SHEET_SX, fontSize: 13, color: 'text.secondary' }}>
          <Box>
            Bring a price list as XLSX or CSV. Its columns are chosen once; a newer list is known by its headings. You
            see what changed, what is new, what is gone and what it does to the total before anything is taken over.
          </Box>
          <Box>
            <Button variant="contained" disabled={isReading} onClick={() => input.current?.click()}>
              {isReading ? 'Reading the sheet' : 'Bring a price sheet'}
            </Button>
          </Box>
          <PriceFolderList isReading={isReading} onCompare={(fileName) => void read(() => fromFolder(fileName))} />
        </Box>
      )}
    </Box>
  );
}

const STATE_WORDS: Readonly<Record<PriceFileDto['state'], string>> = {
  new: 'not taken over yet',
  changed: 'newer than what was taken over',
  same: 'as it was taken over',
};

/** Price lists that lie in the price folder; those that changed light up. */
function PriceFolderList({
  isReading,
  onCompare,
}: {
  readonly isReading: boolean;
  readonly onCompare: (fileName: string) => void;
}) {
  const { project } = useProjectState('project');
  const { data } = usePriceFolder(project.id);
  if (!data || data.length === 0)
    return <Box>Lists that are put into the folder prices of the data folder are found there.</Box>;
  return (
    <Box component="ul" aria-label="In the price folder" sx={{ listStyle: 'none', m: 0, p: 0 }}>
      {data.map((file) => (
        <Box
          component="li"
          key={file.fileName}
          sx={{
            display: 'flex',
            gap: 2,
            alignItems: 'center',
            px: 1,
            borderBottom: 1,
            borderColor: 'divider',
            bgcolor: file.state === 'same' ? undefined : 'tally.unpricedSoft',
          }}
        >
          <Box sx={{ flex: 1, color: 'text.primary' }}>{file.fileName}</Box>
          <Box>
            {showTime(file.at)}, {STATE_WORDS[file.state]}
          </Box>
          <Button size="small" disabled={isReading} onClick={() => onCompare(file.fileName)}>
            Compare
          </Button>
        </Box>
      ))}
    </Box>
  );
}

const COLUMN_WORDS: Readonly<Record<SheetColumn, string>> = {
  code: 'Code or name',
  rate: 'Price',
  description: 'Description',
  unit: 'Unit',
};

function BroughtSheet({ brought, onDone }: { readonly brought: PriceSheetDto; readonly onDone: () => void }) {
  const [source, setSource] = useState(brought.source);
  const [columns, setProfile] = useState<SheetProfile | null>(brought.profile);
  /** What was said of it stays while columns are chosen anew. */
  const [sign, setSign] = useState(brought.profile?.decimal);
  const profile = useMemo(() => columns && withSign(columns, sign), [columns, sign]);
  const [isChosen, setChosen] = useState(brought.isKnown);
  const [chosen, setColumns] = useState<ChosenColumns<SheetColumn>>(
    brought.profile ?? { sheet: brought.sheets[0]!.name, headerRow: 0, columns: {} },
  );
  const name = source.trim();
  return (
    <Box
      component="section"
      aria-label="Price sheet"
      sx={{ ...SHEET_SX, gridTemplateRows: 'auto minmax(0, 1fr)', alignContent: 'stretch' }}
    >
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center' }}>
        <TextField
          label="Name of the price sheet"
          value={source}
          disabled={brought.isKnown}
          onChange={(e) => setSource(e.target.value)}
          sx={{ width: 200, mt: 0.5 }}
        />
        <DecimalSelect brought={brought} profile={profile} onChange={setSign} />
        <Box
          sx={{
            flex: 1,
            minWidth: 0,
            fontSize: 13,
            color: 'text.secondary',
            overflow: 'hidden',
            textOverflow: 'ellipsis',
            whiteSpace: 'nowrap',
          }}
        >
          {brought.fileName}
        </Box>
        {isChosen ? (
          <Button color="inherit" sx={{ whiteSpace: 'nowrap', flexShrink: 0 }} onClick={() => setChosen(false)}>
            Choose the columns anew
          </Button>
        ) : (
          <Button variant="contained" disabled={profile === null || name === ''} onClick={() => setChosen(true)}>
            Compare with the book
          </Button>
        )}
        <Button color="inherit" sx={{ whiteSpace: 'nowrap', flexShrink: 0 }} onClick={onDone}>
          Put away
        </Button>
      </Box>
      {isChosen && profile ? (
        <PriceComparisonView fileHash={brought.fileHash} profile={profile} source={name} onDone={onDone} />
      ) : (
        <SheetColumns
          sheets={brought.sheets}
          words={COLUMN_WORDS}
          hint="Say above the columns which holds the code and which the price; click the row that has the headings."
          chosen={chosen}
          onChange={(next, header) => {
            setColumns(next);
            const { code, rate } = next.columns;
            setProfile(
              code === undefined || rate === undefined
                ? null
                : makeProfile(next.sheet, next.headerRow, { ...next.columns, code, rate }, header),
            );
          }}
        />
      )}
    </Box>
  );
}

function withSign({ decimal: _, ...profile }: SheetProfile, sign: SheetProfile['decimal']): SheetProfile {
  return sign === undefined ? profile : { ...profile, decimal: sign };
}

/** The sign before the decimals of the prices: as the rows shown tell it, or as it is said here. */
function DecimalSelect({
  brought,
  profile,
  onChange,
}: {
  readonly brought: PriceSheetDto;
  readonly profile: SheetProfile | null;
  readonly onChange: (sign: SheetProfile['decimal']) => void;
}) {
  if (!profile) return null;
  const rows = brought.sheets.find((s) => s.name === profile.sheet)?.rows.slice(profile.headerRow + 1) ?? [];
  const texts = rows.map((r) => r[profile.columns.rate]).filter((c) => typeof c === 'string');
  // Cells that are figures have no sign to be read.
  if (texts.length === 0 && profile.decimal === undefined) return null;
  const found = isSignSure(texts) ? `As found: ${findDecimalSign(texts)}` : 'Not told by the sheet';
  return (
    <DecimalSignField
      value={profile.decimal}
      found={found}
      sx={{ width: 200, flexShrink: 0, mt: 0.5 }}
      onChange={onChange}
    />
  );
}
