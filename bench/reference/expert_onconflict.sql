-- 3c: the hand-written expert script as asked: staging, rejects, one upsert statement that skips equal rows
\i :B/reference/staging.sql
\i :B/reference/session.sql
\i :B/reference/checked.sql
\i :B/reference/rejects.sql
INSERT INTO stay AS s (stay_no,hut_code,guest_name,member_no,arrival,nights,beds,half_board,price,currency,phone,remark)
SELECT * FROM typed
ON CONFLICT (stay_no) DO UPDATE SET hut_code=EXCLUDED.hut_code, guest_name=EXCLUDED.guest_name, member_no=EXCLUDED.member_no,
  arrival=EXCLUDED.arrival, nights=EXCLUDED.nights, beds=EXCLUDED.beds, half_board=EXCLUDED.half_board, price=EXCLUDED.price,
  currency=EXCLUDED.currency, phone=EXCLUDED.phone, remark=EXCLUDED.remark
WHERE (s.hut_code,s.guest_name,s.member_no,s.arrival,s.nights,s.beds,s.half_board,s.price,s.currency,s.phone,s.remark)
  IS DISTINCT FROM (EXCLUDED.hut_code,EXCLUDED.guest_name,EXCLUDED.member_no,EXCLUDED.arrival,EXCLUDED.nights,EXCLUDED.beds,
  EXCLUDED.half_board,EXCLUDED.price,EXCLUDED.currency,EXCLUDED.phone,EXCLUDED.remark);
