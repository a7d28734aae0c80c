const KEY = 'ojo.desktop';

/** Whether what arrives is shown on the desktop by this browser. */
export type DesktopState = 'on' | 'off' | 'refused' | 'impossible';

export function desktopState(): DesktopState {
  if (typeof Notification === 'undefined') return 'impossible';
  if (Notification.permission === 'denied') return 'refused';
  return Notification.permission === 'granted' && localStorage.getItem(KEY) === 'on' ? 'on' : 'off';
}

export function keepDesktop(state: 'on' | 'off'): DesktopState {
  localStorage.setItem(KEY, state);
  return desktopState();
}

/** Asks the browser, which asks whoever sits before it. */
export async function askForDesktop(): Promise<DesktopState> {
  await Notification.requestPermission();
  return keepDesktop('on');
}

/** Shows on the desktop what has just arrived, unless Ojo is in view already. */
export function showOnDesktop(id: string, title: string, words: string, onPress: () => void): void {
  if (desktopState() !== 'on' || document.visibilityState === 'visible') return;
  const shown = new Notification(title, { body: words, tag: id });
  shown.onclick = () => {
    window.focus();
    onPress();
    shown.close();
  };
}
