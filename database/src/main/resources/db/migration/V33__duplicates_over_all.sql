-- Numbers that several contacts have are found in the order of the numbers.
create index contact_phone_digits on contact_phone (digits, contact_id);
