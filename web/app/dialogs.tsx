import { useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { areKeysOn, turnKeys } from '../parts/index.ts';
import { t } from '../words/app.ts';

/** Asks whoever signs out with something typed and not kept: it does not stay behind in this browser. */
export const LeaveTyped = ({ onStay, onLeave }: { onStay: () => void; onLeave: () => void }) => (
  <Modal show onHide={onStay} aria-labelledby="leave-typed">
    <Modal.Body>
      <h2 id="leave-typed">{t('somethingTyped')}</h2>
      <p>{t('somethingTypedGoes')}</p>
      <div className="acts">
        <Button variant="outline-primary" onClick={onStay}>
          {t('stayHere')}
        </Button>
        <Button onClick={onLeave}>{t('signOutAllTheSame')}</Button>
      </div>
    </Modal.Body>
  </Modal>
);

const keys = (): [string, string][] => [
  ['1 – 7', t('goToThePlaces')],
  ['/', t('findAnything')],
  ['↓ ↑', t('downAndUpAlongA')],
  [t('enterKey'), t('openWhatOneStandsOn')],
  [t('spaceKey'), t('inTheInboxChoose')],
  ['a', t('inTheInboxAcknowledge')],
  ['n', t('inTheInboxUnreadAgain')],
  ['Esc', t('closeTheSheet')],
  ['h', t('thisList')],
];

/** The keys that work here, and the way to turn single ones off. */
export function KeysHelp({ onClose }: { onClose: () => void }) {
  const [isOn, setOn] = useState(areKeysOn);
  return (
    <Modal show onHide={onClose} aria-labelledby="keys-title" animation={false}>
      <Modal.Header closeButton>
        <Modal.Title id="keys-title" as="h2">
          {t('keysThatWorkHere')}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <dl className="keys-list">
          {keys().map(([key, words]) => (
            <div key={key} style={{ display: 'contents' }}>
              <dt>
                <kbd>{key}</kbd>
              </dt>
              <dd>{words}</dd>
            </div>
          ))}
        </dl>
        <Form.Switch
          id="keys-on"
          className="mt-3"
          label={t('singleKeysWork')}
          checked={isOn}
          onChange={(event) => {
            turnKeys(event.target.checked);
            setOn(event.target.checked);
          }}
        />
      </Modal.Body>
    </Modal>
  );
}
