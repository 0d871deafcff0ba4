package rafter.core.people;

import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import rafter.core.text.MailAddress;
import rafter.core.text.Phone;

/**
 * A contact as a file from elsewhere has it, brought into our form.
 *
 * @param addresses mail addresses in lower case, at least one
 * @param phones telephone numbers as they were written, each once however it is written
 * @param company its name; blank: none was given
 * @param language an ISO 639 code; blank: none was given
 * @param zone a time zone; blank: none was given
 * @param own values of own fields by their key, as they were written
 */
public record IncomingContact(
        String name,
        List<String> addresses,
        List<String> phones,
        String company,
        String language,
        String zone,
        Map<String, String> own) {

    private static final int LONGEST_NAME = 200;
    private static final int MOST = 20;
    /** The codes of languages by the code itself and by what the language is called in English. */
    private static final Map<String, String> CODES = Stream.of(Locale.getISOLanguages())
            .flatMap(code -> Stream.of(
                    Map.entry(code, code),
                    Map.entry(Locale.of(code).getDisplayLanguage(Locale.ENGLISH).toLowerCase(Locale.ROOT), code)))
            .collect(Collectors.toUnmodifiableMap(Map.Entry::getKey, Map.Entry::getValue, (first, second) -> first));

    private static final Set<String> ZONES = Set.copyOf(ZoneId.getAvailableZoneIds());

    public IncomingContact {
        addresses = List.copyOf(addresses);
        phones = List.copyOf(phones);
        own = Map.copyOf(own);
    }

    /** What came of a row. */
    public sealed interface Read {
        /** It can be taken. */
        record Fine(IncomingContact contact) implements Read {}

        /** It cannot, and why. */
        record Wrong(String why) implements Read {}
    }

    /**
     * Reads a row.
     *
     * @param targets for each cell what it is: a {@link ContactColumn#key()}, the key of an own field, or blank when it is left out
     * @param cells what stands in them; there may be fewer
     */
    public static Read of(List<String> targets, List<String> cells) {
        var values = new LinkedHashMap<String, List<String>>();
        for (int i = 0; i < Math.min(targets.size(), cells.size()); i++) {
            String cell = plain(cells.get(i));
            if (!targets.get(i).isEmpty() && !cell.isEmpty()) {
                values.computeIfAbsent(targets.get(i), key -> new ArrayList<>()).add(cell);
            }
        }
        return of(values);
    }

    private static Read of(Map<String, List<String>> values) {
        Set<String> addresses = new LinkedHashSet<>();
        for (String typed : several(values, ContactColumn.ADDRESS)) {
            var address = MailAddress.of(typed).filter(MailAddress::writable);
            if (address.isEmpty()) {
                return new Read.Wrong("“" + cut(typed) + "” is not a mail address.");
            }
            addresses.add(address.get().toString().toLowerCase(Locale.ROOT));
        }
        if (addresses.isEmpty()) {
            return new Read.Wrong("There is no mail address in it, and by that a contact is recognised.");
        }
        List<String> written = several(values, ContactColumn.PHONE);
        var phones = new LinkedHashMap<String, String>();
        for (String one : written) {
            Optional<Phone> phone = Phone.of(one);
            if (phone.isEmpty()) {
                return new Read.Wrong("“" + cut(one) + "” is not a telephone number.");
            }
            phones.putIfAbsent(phone.get().digits(), one);
        }
        if (addresses.size() > MOST || written.size() > MOST) {
            return new Read.Wrong("A contact has at most " + MOST + " addresses and " + MOST + " telephones.");
        }
        return rest(values, List.copyOf(addresses), List.copyOf(phones.values()));
    }

    private static Read rest(Map<String, List<String>> values, List<String> addresses, List<String> phones) {
        String name = name(values);
        if (name.length() > LONGEST_NAME) {
            return new Read.Wrong("A name has at most " + LONGEST_NAME + " letters.");
        }
        String language = first(values, ContactColumn.LANGUAGE);
        String code = code(language);
        if (code.isEmpty() && !language.isEmpty()) {
            return new Read.Wrong("“" + cut(language) + "” is no language. Write it such as German, or de.");
        }
        String zone = first(values, ContactColumn.ZONE);
        if (!zone.isEmpty() && !ZONES.contains(zone)) {
            return new Read.Wrong("“" + cut(zone) + "” is no time zone. Write it like Europe/Oslo.");
        }
        var own = new LinkedHashMap<String, String>();
        values.forEach((target, cells) -> {
            if (ContactColumn.of(target).isEmpty()) {
                own.put(target, cells.getFirst());
            }
        });
        return new Read.Fine(
                new IncomingContact(name, addresses, phones, first(values, ContactColumn.COMPANY), code, zone, own));
    }

    private static String name(Map<String, List<String>> values) {
        String whole = first(values, ContactColumn.NAME);
        return whole.isEmpty()
                ? (first(values, ContactColumn.FIRST_NAME) + " " + first(values, ContactColumn.LAST_NAME)).strip()
                : whole;
    }

    /** The code of a language that is named by its code or in English; blank when there is none of that name. */
    private static String code(String language) {
        String wanted = language.toLowerCase(Locale.ROOT);
        String known = CODES.getOrDefault(wanted, "");
        return known.isEmpty() ? CODES.getOrDefault(wanted.split("[-_]", 2)[0], "") : known;
    }

    private static String first(Map<String, List<String>> values, ContactColumn column) {
        return values.getOrDefault(column.key(), List.of("")).getFirst();
    }

    private static List<String> several(Map<String, List<String>> values, ContactColumn column) {
        return values.getOrDefault(column.key(), List.of()).stream()
                .flatMap(cell -> Stream.of(cell.split("[;,\n]")))
                .map(String::strip)
                .filter(one -> !one.isEmpty())
                .distinct()
                .toList();
    }

    /** Without what tables put before a value so that nobody takes it for a formula, and without what cannot be stored. */
    private static String plain(String cell) {
        String stripped = cell.replace("\u0000", "").strip();
        return stripped.matches("(?s)'[=+\\-@].*") ? stripped.substring(1) : stripped;
    }

    private static String cut(String text) {
        return text.length() > 60 ? text.substring(0, 60) + "…" : text;
    }
}
