-- Lanes and the Clock read the first tickets of each person, team or state: of the tickets that wait for others, and of those that nobody
-- owns, these were among many of the same person, team or state that had to be read and left out.
create index ticket_waiting_owner on ticket (owner_id, next_due, number) where open and turn in ('CUSTOMER', 'PARTNER');
create index ticket_waiting_state on ticket (state, turn_since, number) where open and turn in ('CUSTOMER', 'PARTNER');
create index ticket_unowned_team on ticket (team_id, next_due, number) include (turn) where open and owner_id is null;
