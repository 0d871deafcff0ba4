-- The states of this workspace. Events keep a state as it was when the ticket moved to it.
create table ticket_state (
    key text primary key check (key ~ '^[a-z][a-z0-9-]{0,39}$'),
    name text not null check (length(name) between 1 and 60),
    turn text not null check (turn in ('OURS', 'CUSTOMER', 'PARTNER', 'NOBODY')),
    ending boolean not null,
    position int not null,
    check (ending = (turn = 'NOBODY'))
);
insert into ticket_state (key, name, turn, ending, position) values
    ('new', 'New', 'OURS', false, 10),
    ('in-hand', 'In hand', 'OURS', false, 20),
    ('with-customer', 'With customer', 'CUSTOMER', false, 30),
    ('with-partner', 'With partner', 'PARTNER', false, 40),
    ('resolved', 'Resolved', 'NOBODY', true, 50),
    ('closed', 'Closed', 'NOBODY', true, 60);
