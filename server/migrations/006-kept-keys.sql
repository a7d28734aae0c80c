-- What a paused rule keeps says by which key it stands: of a burst that cannot be told from its parts. Parts of a key are joined by bars, escaped.
UPDATE engine_rows SET value = JSON_SET(value, '$.key', IF(JSON_VALUE(value, '$.occasion') = 'change',
  CONCAT_WS('|', REPLACE(REPLACE(JSON_VALUE(value, '$.rule'), '~', '~0'), '|', '~1'), JSON_VALUE(value, '$.version'),
    REPLACE(REPLACE(JSON_VALUE(value, '$.parts[last].source'), '~', '~0'), '|', '~1'), REPLACE(REPLACE(JSON_VALUE(value, '$.parts[last].changes[last]'), '~', '~0'), '|', '~1')),
  CONCAT_WS('|', REPLACE(REPLACE(JSON_VALUE(value, '$.rule'), '~', '~0'), '|', '~1'), JSON_VALUE(value, '$.version'), JSON_VALUE(value, '$.occasion'), JSON_VALUE(value, '$.at'),
    REPLACE(REPLACE(JSON_VALUE(value, '$.parts[0].item'), '~', '~0'), '|', '~1'))))
WHERE shelf = 'kept' AND JSON_VALUE(value, '$.key') IS NULL;
