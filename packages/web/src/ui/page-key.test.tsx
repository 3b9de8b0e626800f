/** @jest-environment jsdom */
import { MenuItem, Select } from '@mui/material';
import { fireEvent, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderThemed } from '../testing/in-project.tsx';
import { isPageKey, isTypedInto } from './page-key.ts';

const taken: string[] = [];
const listen = (e: KeyboardEvent) => isPageKey(e) && taken.push(e.key);
beforeEach(() => {
  taken.length = 0;
  window.addEventListener('keydown', listen);
});
afterEach(() => window.removeEventListener('keydown', listen));

describe('a key of the page', () => {
  it('is one that is pressed alone, outside of what letters are typed into', () => {
    renderThemed(
      <>
        <button type="button">Here</button>
        <input aria-label="Name" />
        <div role="dialog" aria-label="Asked">
          <button type="button">Keep</button>
        </div>
      </>,
    );
    fireEvent.keyDown(screen.getByText('Here'), { key: 'k' });
    fireEvent.keyDown(screen.getByText('Here'), { key: 'k', ctrlKey: true });
    fireEvent.keyDown(screen.getByText('Here'), { key: 'k', altKey: true });
    fireEvent.keyDown(screen.getByLabelText('Name'), { key: 'n' });
    fireEvent.keyDown(screen.getByText('Keep'), { key: 'h' });
    fireEvent.keyDown(document.body, { key: 'f' });
    expect(taken).toEqual(['k', 'f']);
  });
  it('is none that finds an entry of an open list', async () => {
    const user = userEvent.setup();
    renderThemed(
      <Select value="items" inputProps={{ 'aria-label': 'Rows' }}>
        <MenuItem value="items">Items</MenuItem>
        <MenuItem value="kinds">Kinds</MenuItem>
      </Select>,
    );
    await user.click(screen.getByRole('combobox', { name: 'Rows' }));
    await screen.findByRole('listbox');
    await user.keyboard('k');
    expect(document.activeElement?.textContent).toBe('Kinds');
    expect(taken).toEqual([]);
  });
  it('is none that somebody has taken', () => {
    renderThemed(
      <button type="button" onKeyDown={(e) => e.preventDefault()}>
        Cell
      </button>,
    );
    fireEvent.keyDown(screen.getByText('Cell'), { key: 'k' });
    expect(taken).toEqual([]);
  });
  it('may be left to more', () => {
    renderThemed(<section data-own="">Table</section>);
    const target = screen.getByText('Table');
    expect([isTypedInto({ target }), isTypedInto({ target }, '[data-own]')]).toEqual([false, true]);
    expect(isTypedInto({ target: null })).toBe(false);
  });
});
