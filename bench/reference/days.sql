-- takings per hut and day: what the job days.yaml does, as a script by hand
\i :B/reference/staging.sql
\i :B/reference/session.sql
SET work_mem = '256MB';
BEGIN;
INSERT INTO stay_day AS d (hut_code, arrival, stays, nights, amount)
SELECT hut_code, to_date(arrival, 'DD.MM.YYYY'), count(*), sum(nights::int), sum(translate(price, ',.', '.')::numeric(10,2))
FROM staging GROUP BY 1, 2
ON CONFLICT (hut_code, arrival) DO UPDATE SET stays = excluded.stays, nights = excluded.nights, amount = excluded.amount
WHERE (d.stays, d.nights, d.amount) IS DISTINCT FROM (excluded.stays, excluded.nights, excluded.amount);
COMMIT;
