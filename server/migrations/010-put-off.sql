-- Changes that were put off are few, and asked for with every look at the queue.
ALTER TABLE change_queue ADD KEY put_off (not_before);
