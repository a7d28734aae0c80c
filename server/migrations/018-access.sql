-- Who may add and edit, beside who may read: NULL stands for everybody who reads there; no readers at all for everybody here.
ALTER TABLE access_entries
  MODIFY readers JSON NULL,
  ADD adders JSON NULL,
  ADD editors JSON NULL;
