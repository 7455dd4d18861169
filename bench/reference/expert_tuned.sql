-- 3c*: the fastest script we could write by hand: one parallel pass of typing (NULL = bad), dates by a calendar join, hash joins
\i :B/reference/staging.sql
\i :B/reference/session.sql
SET enable_nestloop = off; -- the target was analysed when empty: a nested-loop anti join would be quadratic
SET parallel_tuple_cost = 0; SET parallel_setup_cost = 0; SET work_mem = '256MB';
ANALYZE staging;
DROP TABLE IF EXISTS calendar, staging_typed;
CREATE UNLOGGED TABLE calendar AS SELECT to_char(d, 'DD.MM.YYYY') dmy, d::date AS day FROM generate_series('1990-01-01'::date, '2049-12-31'::date, '1 day') d;
ANALYZE calendar;
CREATE UNLOGGED TABLE staging_typed AS
SELECT s.ctid AS src, upper(trim(s.stay_no)) stay_no, h.hut_code, s.guest_name, s.member_no, c.day AS arrival,
  CASE WHEN s.nights ~ '^[0-9]{1,4}$' THEN s.nights::int END nights, CASE WHEN s.beds ~ '^[0-9]{1,4}$' THEN s.beds::int END beds,
  CASE s.half_board WHEN 'yes' THEN true WHEN 'no' THEN false END half_board,
  CASE WHEN s.price ~ '^[0-9.]{1,9}(,[0-9]{1,2})?$' THEN translate(s.price, ',.', '.')::numeric(10,2) END price,
  s.currency, translate(s.phone, ' -/()', '') phone, s.remark
FROM staging s LEFT JOIN hut h USING (hut_code) LEFT JOIN calendar c ON c.dmy = s.arrival;
ANALYZE staging_typed;
CREATE TEMP VIEW bad AS SELECT * FROM staging_typed WHERE stay_no IS NULL OR hut_code IS NULL OR guest_name IS NULL OR arrival IS NULL OR nights IS NULL
  OR beds IS NULL OR half_board IS NULL OR price IS NULL OR currency IS NULL OR phone IS NULL OR coalesce(length(remark) > 200, false);
CREATE TEMP VIEW good AS SELECT * FROM staging_typed WHERE NOT (stay_no IS NULL OR hut_code IS NULL OR guest_name IS NULL OR arrival IS NULL OR nights IS NULL
  OR beds IS NULL OR half_board IS NULL OR price IS NULL OR currency IS NULL OR phone IS NULL OR coalesce(length(remark) > 200, false));
BEGIN;
INSERT INTO stay_reject SELECT CASE WHEN b.stay_no IS NULL THEN 'missing key' WHEN b.hut_code IS NULL THEN 'unknown hut' WHEN b.arrival IS NULL THEN 'bad date'
  WHEN b.nights IS NULL THEN 'bad nights' WHEN b.beds IS NULL THEN 'bad beds' WHEN b.half_board IS NULL THEN 'bad half_board'
  WHEN b.price IS NULL THEN 'bad price' WHEN length(b.remark) > 200 THEN 'remark too long' ELSE 'missing value' END, s.*
FROM bad b JOIN staging s ON s.ctid = b.src;
UPDATE stay s SET hut_code=t.hut_code, guest_name=t.guest_name, member_no=t.member_no, arrival=t.arrival, nights=t.nights,
  beds=t.beds, half_board=t.half_board, price=t.price, currency=t.currency, phone=t.phone, remark=t.remark
FROM good t WHERE s.stay_no = t.stay_no
  AND (s.hut_code,s.guest_name,s.member_no,s.arrival,s.nights,s.beds,s.half_board,s.price,s.currency,s.phone,s.remark)
  IS DISTINCT FROM (t.hut_code,t.guest_name,t.member_no,t.arrival,t.nights,t.beds,t.half_board,t.price,t.currency,t.phone,t.remark);
INSERT INTO stay (stay_no,hut_code,guest_name,member_no,arrival,nights,beds,half_board,price,currency,phone,remark)
SELECT stay_no,hut_code,guest_name,member_no,arrival,nights,beds,half_board,price,currency,phone,remark
FROM good t WHERE NOT EXISTS (SELECT FROM stay s WHERE s.stay_no = t.stay_no);
COMMIT;
