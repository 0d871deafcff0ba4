package rafter.core.text;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Reads reports of mail that was not delivered: those of RFC 3464, and the free text of older servers.
 *
 * <p>A machine must have sent it (an empty return path, a daemon's address or name, a header that names failed receivers, or the media type
 * of reports), and it must be shaped like a report: by its machine-readable part, by its subject, or by the words that servers begin with.
 * Neither alone is enough, for people forward such reports and ask about them.
 */
public final class Bounces {

    private static final int READ = 20_000;
    private static final int LONGEST_LINE = 1_000;
    private static final int MOST_FAILURES = 20;
    private static final int MOST_IDS = 50;
    private static final Set<String> DAEMONS = Set.of(
            "mailer-daemon",
            "mailerdaemon",
            "mail-daemon",
            "maildaemon",
            "mdaemon",
            "postmaster",
            "postoffice",
            "bounce",
            "bounces",
            "double-bounce",
            "mailsystem",
            "mail-system",
            "mailadmin",
            "mail-administrator",
            "mailadministrator",
            "smtp",
            "mta",
            "no-reply-bounce",
            "noreply-bounce");
    private static final Pattern DAEMON_NAME = Pattern.compile(
            "mail (delivery|transport|transfer) (system|subsystem|service|agent|daemon)|mail (administrator|system)|system administrator|mailer[- ]daemon|internet mail delivery"
                    + "|mail router|postmaster",
            Pattern.CASE_INSENSITIVE);
    private static final Pattern SUBJECT = Pattern.compile(
            "undeliver|not delivered|could ?n.t be delivered|could not (be delivered|deliver|send)|can ?not (be delivered|deliver)|unable to deliver|delivery (status|failure|failed|error|problem|notification|report|has failed|incomplete|delayed|unsuccessful)"
                    + "|(mail|message) (delivery|status|system)|returned (mail|to sender|message)|return(ed|ing) .{0,40}to sender|failure notice|failure notification|failed delivery|non-?delivery|nondeliverable|delivery.{0,30}(failed|failure|delayed)"
                    + "|rejected mail|mail (failure|error|returned)|message (rejected|bounced)|bounced mail|unzustellbar|nicht zugestellt|unzugestellt|levering mislykk?e|kan ikke leveres|kunne ikke leveres|kunde inte levereras"
                    + "|onbestelbaar|non remis|échec de (la )?(remise|distribution)|no se (pudo|ha podido) entregar|não (foi )?(possível )?entreg|mancat[oa] recapito|nie dostarczon|nie można dostarczyć|toimitus epäonnistui",
            Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE);
    private static final Pattern OPENING = Pattern.compile(
            "(message|mail|it) (was|has been) (created|generated) automatically by (the )?mail (delivery|system)|was(n.t| not) able to deliver|unable to deliver|permanent fatal errors|transient non-fatal errors"
                    + "|(could|can) ?not be delivered|couldn.t be delivered|did not reach|has not been delivered|was not delivered|undeliverable|delivery (to the following|has failed|failed)"
                    + "|this is the mail (system|server|delivery)|mail delivery (system|subsystem|failed)|returned (to you|below|to sender)|no such user|user unknown|unknown user|mailbox (is )?(full|unavailable|not found)|permanent error"
                    + "|konnte nicht zugestellt|kunne ikke leveres|n'a pas pu être (remis|délivré)|no (se )?pudo (ser )?entrega",
            Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE);
    private static final Pattern FIELD = Pattern.compile("^([A-Za-z-]{4,30}):[ \\t]*(.*)$");
    private static final Pattern STATUS = Pattern.compile("(?<![\\d.])([245]\\.\\d{1,3}\\.\\d{1,3})(?![\\d.]*\\d)");
    private static final Pattern REPLY = Pattern.compile("(?<![\\d.])([45]\\d\\d)(?=[ \\-#:])");
    private static final Pattern RETURNED =
            Pattern.compile("(?i)^(?:> ?)?(?:original-)?message-id:[ \\t]*(<[^<>\\s]{3,400}>)");
    private static final Pattern ID = Pattern.compile("<[^<>\\s@]{1,250}@[^<>\\s@]{1,250}>");

    private Bounces() {}

    /** What a mail reports; nothing when it is no such report. */
    public static Optional<Bounce> read(MailSigns signs) {
        List<Map<String, String>> groups = groups(signs.statusReport());
        List<Map<String, String>> receivers = groups.stream()
                .filter(group -> group.containsKey("final-recipient") || group.containsKey("original-recipient"))
                .toList();
        boolean reported = !receivers.isEmpty() || (signs.mediaType().equals("multipart/report") && !signs.receipt());
        if (!bySender(signs) && !reported) {
            return Optional.empty();
        }
        String text = signs.text().length() > READ ? signs.text().substring(0, READ) : signs.text();
        boolean shaped = SUBJECT.matcher(cut(signs.first("subject"))).find()
                || OPENING.matcher(text).find()
                || !receivers.isEmpty();
        if (!shaped) {
            return Optional.empty();
        }
        List<Map<String, String>> bad =
                receivers.stream().filter(Bounces::failedOrDelayed).toList();
        if (!receivers.isEmpty() && bad.isEmpty()) {
            // A receipt that it was delivered, or handed on.
            return Optional.empty();
        }
        boolean delayed = !bad.isEmpty()
                ? bad.stream().allMatch(group -> action(group).startsWith("delayed"))
                : onlyDelayed(signs, text);
        List<Bounce.Failure> failures = bad.isEmpty()
                ? fromText(signs, text)
                : bad.stream().limit(MOST_FAILURES).map(Bounces::failure).toList();
        return Optional.of(new Bounce(failures, ids(text), delayed));
    }

    private static String cut(String line) {
        return line.length() > LONGEST_LINE ? line.substring(0, LONGEST_LINE) : line;
    }

    private static boolean bySender(MailSigns signs) {
        String local = MailAddress.of(signs.sender())
                .map(address -> address.plain().local())
                .orElse("");
        return signs.nullReturnPath()
                || signs.has("x-failed-recipients")
                || DAEMONS.contains(local)
                || local.startsWith("mailer-daemon")
                || DAEMON_NAME.matcher(cut(signs.senderName())).find();
    }

    private static boolean onlyDelayed(MailSigns signs, String text) {
        String subject = signs.first("subject");
        String begin = text.substring(0, Math.min(text.length(), 2_000)).toLowerCase(Locale.ROOT);
        boolean says = subject.contains("delay")
                || subject.startsWith("warning")
                || begin.contains("transient non-fatal")
                || begin.contains("will continue to be attempted")
                || begin.contains("will be retried");
        return says && !begin.contains("permanent");
    }

    // ------------------------------------------------------------------ the machine-readable part

    /** Its groups of fields: the first is about the mail, each further one about a receiver. */
    private static List<Map<String, String>> groups(String report) {
        var groups = new ArrayList<Map<String, String>>();
        var group = new LinkedHashMap<String, String>();
        String last = "";
        for (String line : report.lines().limit(2_000).map(Bounces::cut).toList()) {
            Matcher field = FIELD.matcher(line);
            if (line.isBlank()) {
                if (!group.isEmpty()) {
                    groups.add(group);
                    group = new LinkedHashMap<>();
                }
                last = "";
            } else if (Character.isWhitespace(line.charAt(0)) && !last.isEmpty()) {
                group.merge(last, " " + line.strip(), String::concat);
            } else if (field.matches()) {
                last = field.group(1).toLowerCase(Locale.ROOT);
                group.putIfAbsent(last, field.group(2).strip());
            }
        }
        if (!group.isEmpty()) {
            groups.add(group);
        }
        return groups;
    }

    private static String action(Map<String, String> group) {
        return group.getOrDefault("action", "failed").toLowerCase(Locale.ROOT).strip();
    }

    private static boolean failedOrDelayed(Map<String, String> group) {
        String action = action(group);
        return !action.startsWith("delivered") && !action.startsWith("relayed") && !action.startsWith("expanded");
    }

    private static Bounce.Failure failure(Map<String, String> group) {
        String written = group.getOrDefault("original-recipient", group.getOrDefault("final-recipient", ""));
        String address = MailAddress.in(written.replaceFirst("^[^;]*;", ""), 1).stream()
                .findFirst()
                .or(() -> MailAddress.in(group.getOrDefault("final-recipient", ""), 1).stream()
                        .findFirst())
                .map(MailAddress::toString)
                .orElse("");
        String diagnostic = group.getOrDefault("diagnostic-code", "").replaceFirst("^[^;]{0,40};\\s*", "");
        String status = group.getOrDefault("status", "");
        return new Bounce.Failure(address, code(diagnostic, status), tidy(diagnostic));
    }

    // ------------------------------------------------------------------ free text

    private static List<Bounce.Failure> fromText(MailSigns signs, String text) {
        String own = text.substring(0, returnedFrom(text));
        List<String> lines = own.lines().map(Bounces::cut).limit(400).toList();
        Set<String> addresses = failed(signs, lines);
        String reason = lines.stream()
                .filter(line ->
                        STATUS.matcher(line).find() || REPLY.matcher(line).find())
                .findFirst()
                .orElseGet(() -> spoken(lines));
        String code = code(reason, reason);
        if (addresses.isEmpty()) {
            return reason.isBlank() ? List.of() : List.of(new Bounce.Failure("", code, tidy(reason)));
        }
        // Servers tell the likeliest address first; the rest of an old free text may be anybody's.
        return addresses.stream()
                .limit(signs.has("x-failed-recipients") ? MOST_FAILURES : 1)
                .map(address -> new Bounce.Failure(address, code, tidy(reason)))
                .toList();
    }

    /** The addresses that failed: those that a header names, or else those that the lines name and that are nobody else's. */
    private static Set<String> failed(MailSigns signs, List<String> lines) {
        var addresses = new LinkedHashSet<String>();
        MailAddress.in(
                        signs.headers().getOrDefault("x-failed-recipients", List.of()).stream()
                                .reduce("", (a, b) -> a + " " + b),
                        MOST_FAILURES)
                .forEach(address -> addresses.add(address.toString()));
        if (!addresses.isEmpty()) {
            return addresses;
        }
        String mine = MailAddress.of(signs.sender()).map(MailAddress::toString).orElse("");
        Set<String> receivers = receivers(signs);
        lines.stream()
                .flatMap(line -> MailAddress.in(line, MOST_FAILURES).stream())
                .map(MailAddress::toString)
                .filter(address -> !address.equals(mine) && !isDaemon(address) && !receivers.contains(address))
                .limit(MOST_FAILURES)
                .forEach(addresses::add);
        return addresses;
    }

    /** To whom the report went: we ourselves, who did not fail. */
    private static Set<String> receivers(MailSigns signs) {
        var all = new LinkedHashSet<String>();
        for (String name : List.of("to", "delivered-to", "x-original-to", "envelope-to")) {
            for (String value : signs.headers().getOrDefault(name, List.of())) {
                MailAddress.in(cut(value), MOST_FAILURES).forEach(address -> {
                    all.add(address.toString());
                    all.add(address.plain().toString());
                });
            }
        }
        return all;
    }

    private static boolean isDaemon(String address) {
        return DAEMONS.contains(address.substring(0, address.indexOf('@')));
    }

    private static String spoken(List<String> lines) {
        return lines.stream().filter(line -> OPENING.matcher(line).find()).reduce("", (a, b) -> b);
    }

    /** Where the returned mail begins within a report of one piece. */
    private static int returnedFrom(String text) {
        Matcher mark = Pattern.compile(
                        "(?im)^[ \\t>-]*(-+ ?(this is a copy|below this line|original message|message header|returned message|headers? follow|transcript of session follows \\(end\\))|return-path:|received: )")
                .matcher(text);
        return mark.find() ? mark.start() : text.length();
    }

    private static String code(String words, String status) {
        Matcher reply = REPLY.matcher(words);
        Matcher enhanced = STATUS.matcher(words);
        String three = reply.find() ? reply.group(1) : "";
        String dotted = enhanced.find() ? enhanced.group(1) : "";
        Matcher told = STATUS.matcher(status);
        if (dotted.isEmpty() && told.find()) {
            dotted = told.group(1);
        }
        return (three + " " + dotted).strip();
    }

    private static String tidy(String reason) {
        String plain =
                reason.replaceAll("\\s+", " ").replaceFirst("^[\\s<>|*-]+", "").strip();
        return plain.length() > 200 ? plain.substring(0, 200) + "…" : plain;
    }

    /** The returned mail's own identifier first, then whatever looks like one. */
    private static List<String> ids(String text) {
        var ids = new LinkedHashSet<String>();
        text.lines().map(Bounces::cut).forEach(line -> {
            Matcher found = RETURNED.matcher(line.stripLeading());
            if (found.find()) {
                ids.add(found.group(1));
            }
        });
        Matcher any = ID.matcher(text);
        while (ids.size() < MOST_IDS && any.find()) {
            ids.add(any.group());
        }
        return List.copyOf(ids);
    }
}
