-- Mail for the run that prepares a quick start (./rafter): plain, formatted and with a file; one in five answers an earlier one.
insert into mailbox (name, address, watched, imap_host, imap_port, imap_security, imap_login, imap_password,
    smtp_host, smtp_port, smtp_security, smtp_login, smtp_password)
values ('Help', 'help@ternpassage.example', false, '127.0.0.1', 1, 'NONE', '', '', '127.0.0.1', 1, 'NONE', '', '');

create temporary table warm_up as
select i, answers, case when answers then i / 3 else i end as to_mail, convert_to(format(
    E'From: Somebody <s%s@post%s.example>\nTo: help@ternpassage.example\nSubject: Request %s\nMessage-ID: <%s@post.example>\n%sMIME-Version: 1.0\n%s',
    case when answers then i / 3 else i end % 500, case when answers then i / 3 else i end % 50, i, i,
    case when answers then format(E'In-Reply-To: <%s@post.example>\n', i / 3) else '' end,
    case i % 3
    when 0 then E'Content-Type: text/plain; charset=utf-8\n\n' || words || E'\n\nOn Monday Help wrote:\n> ' || words
    when 1 then E'Content-Type: text/html; charset=utf-8\n\n<div>' || words || '</div><div>On Monday Help wrote:</div><blockquote>' || words || '</blockquote>'
    else E'Content-Type: multipart/mixed; boundary=b\n\n--b\nContent-Type: text/plain; charset=utf-8\n\n' || words
        || E'\n--b\nContent-Type: application/pdf; name=slot.pdf\nContent-Transfer-Encoding: base64\n\n'
        || encode(convert_to(repeat(md5(i::text), 600), 'utf8'), 'base64') || E'\n--b--\n'
    end), 'utf8') as raw
from (select i, i > 100 and i % 5 = 0 as answers, repeat('Is the sailing at 07:40 still on? I have a trailer of 14 m. ', 1 + i % 20) as words
    from generate_series(1, :mails) i) as mails;

insert into file (sha256, size, content, created_at)
select sha256(raw), length(raw), raw, now() from warm_up;

insert into inbound (key, mailbox_id, raw, received_at, rfc_message_id, refers_to)
select sha256(raw), (select id from mailbox), sha256(raw), now(), format('<%s@post.example>', i),
    case when answers then array[format('<%s@post.example>', to_mail)] else '{}' end
from warm_up order by i;
