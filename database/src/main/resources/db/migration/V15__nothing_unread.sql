-- Columns of tickets that nothing reads: whose company a customer belonged to stands with the customer, and the last word of either side in
-- the events. The index on the first goes with it.
alter table ticket drop column company_id, drop column last_public_seq;
