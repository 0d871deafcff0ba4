-- How tickets were resolved is searched as their subjects are.
create index resolution_word_list on resolution using gin (word_list(words));
