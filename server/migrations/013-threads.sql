-- What somebody passes on begins a thread, and is called so everywhere.
RENAME TABLE talks TO threads, talk_people TO thread_people, talk_words TO thread_words;
ALTER TABLE thread_people CHANGE talk_id thread_id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL;
ALTER TABLE thread_words CHANGE talk_id thread_id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL;
UPDATE messages SET content = JSON_REMOVE(JSON_INSERT(content, '$.thread', JSON_VALUE(content, '$.talk')), '$.talk') WHERE form = 'passed' AND JSON_EXISTS(content, '$.talk');
