import { useEffect, useRef } from 'react';

interface MailFrameProps {
  title: string;
  html: string;
  /** Its links may be followed; otherwise it is only looked at. */
  isOpen?: boolean;
}

/** An email as it looks, in a page of its own: the styles that it brings are no page's of Ojo, and nothing in it runs. */
export function MailFrame({ title, html, isOpen = false }: MailFrameProps) {
  const frame = useRef<HTMLIFrameElement>(null);
  useEffect(() => {
    const hand = () => frame.current?.contentWindow?.postMessage(html, '*');
    const heard = ({ source, data }: MessageEvent) => {
      if (source === frame.current?.contentWindow && data === 'ready') hand();
    };
    window.addEventListener('message', heard);
    // It may have been ready before another email came.
    hand();
    return () => window.removeEventListener('message', heard);
  }, [html]);
  return (
    <iframe
      ref={frame}
      className="mail-frame"
      title={title}
      src="/mail-frame"
      sandbox={`allow-scripts${isOpen ? ' allow-popups allow-top-navigation-by-user-activation' : ''}`}
    />
  );
}
