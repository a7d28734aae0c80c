-- Messages are most of what grows: their contents are kept compressed, by MariaDB itself, and read as ever.
ALTER TABLE messages MODIFY content LONGTEXT COMPRESSED CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NULL;
