import { Component, type ReactNode } from 'react';
import { useLocation } from 'react-router';
import { t } from '../words/app.ts';

interface Props {
  children: ReactNode;
  /** Another page is another chance. */
  path: string;
}

/** A page whose parts did not come, or that cannot be drawn, leaves the frame and every other page as they are. */
class Boundary extends Component<Props, { failedAt: string | null }> {
  override state = { failedAt: null as string | null };

  static getDerivedStateFromError = () => ({ failedAt: '' });

  override componentDidCatch(): void {
    this.setState({ failedAt: this.props.path });
  }

  override componentDidUpdate({ path }: Props): void {
    if (this.state.failedAt && path !== this.props.path) this.setState({ failedAt: null });
  }

  override render(): ReactNode {
    if (this.state.failedAt === null) return this.props.children;
    return (
      <main className="page">
        <div className="empty" role="alert">
          <h1>{t('thisPageCouldNotBe')}</h1>
          <p>{t('ojoDidNotAnswerOr')}</p>
          <button type="button" className="btn btn-primary" onClick={() => window.location.reload()}>
            {t('loadItAgain')}
          </button>
        </div>
      </main>
    );
  }
}

export function PageBoundary({ children }: { children: ReactNode }) {
  return <Boundary path={useLocation().pathname}>{children}</Boundary>;
}
