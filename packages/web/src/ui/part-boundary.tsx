import { Alert, Button } from '@mui/material';
import { Component, type ReactNode } from 'react';

interface PartBoundaryProps {
  /** What is drawn here, as it begins a sentence. */
  readonly what: string;
  /** Before it is drawn again. */
  readonly onAgain?: () => void;
  readonly children: ReactNode;
}

/**
 * What fails while it is drawn or loaded takes nothing else off the screen: its place says so, and it is tried again when asked. What was
 * typed elsewhere stays.
 */
export class PartBoundary extends Component<PartBoundaryProps, { readonly error: Error | null }> {
  override state: { readonly error: Error | null } = { error: null };

  static getDerivedStateFromError(error: unknown): { error: Error } {
    return { error: error instanceof Error ? error : new Error(String(error)) };
  }

  private readonly again = (): void => {
    this.props.onAgain?.();
    this.setState({ error: null });
  };

  override render(): ReactNode {
    const { error } = this.state;
    if (!error) return this.props.children;
    return (
      <Alert
        severity="error"
        sx={{ m: 1, alignSelf: 'flex-start' }}
        action={
          <Button color="inherit" size="small" onClick={this.again}>
            Try again
          </Button>
        }
      >
        {this.props.what} could not be shown ({error.message}). Everything that was saved is safe; if it fails again,
        load the page anew.
      </Alert>
    );
  }
}
