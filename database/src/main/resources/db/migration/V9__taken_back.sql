-- A note that its writer took back: what it said, kept apart from what is shown and searched.
alter table message add column taken_back text;
