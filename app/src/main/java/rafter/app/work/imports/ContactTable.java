package rafter.app.work.imports;

import ezvcard.VCard;
import ezvcard.io.text.VCardReader;
import ezvcard.property.Email;
import ezvcard.property.Language;
import ezvcard.property.Telephone;
import java.io.IOException;
import java.io.StringReader;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;
import org.jspecify.annotations.Nullable;
import rafter.app.platform.Problem;
import rafter.core.people.ContactColumn;

/**
 * A file of contacts as a table.
 *
 * @param headings what stands above the columns
 */
record ContactTable(List<String> headings, List<List<String>> rows) {

    static final int MOST_ROWS = 100_000;
    private static final int MOST_COLUMNS = 100;
    private static final int LONGEST_HEADING = 200;

    private static final List<ContactColumn> OF_CARDS = List.of(
            ContactColumn.NAME,
            ContactColumn.ADDRESS,
            ContactColumn.PHONE,
            ContactColumn.COMPANY,
            ContactColumn.LANGUAGE,
            ContactColumn.ZONE);

    /** Into which sort of text its bytes make sense. */
    static String charset(byte[] content) {
        if (content.length > 1
                && ((content[0] & 0xff) == 0xfe || (content[0] & 0xff) == 0xff)
                && ((content[1] & 0xff) == 0xff || (content[1] & 0xff) == 0xfe)) {
            return StandardCharsets.UTF_16.name();
        }
        try {
            StandardCharsets.UTF_8
                    .newDecoder()
                    .onMalformedInput(CodingErrorAction.REPORT)
                    .decode(ByteBuffer.wrap(content));
            return StandardCharsets.UTF_8.name();
        } catch (CharacterCodingException e) {
            return "windows-1252";
        }
    }

    /** Whether it is a file of vCards. */
    static boolean cards(byte[] content) {
        String begin = new String(content, 0, Math.min(content.length, 200), StandardCharsets.ISO_8859_1);
        return begin.toUpperCase(Locale.ROOT).contains("BEGIN:VCARD");
    }

    /**
     * Reads a file.
     *
     * @throws Problem.Invalid when it is no such file, and where it goes wrong
     */
    static ContactTable read(byte[] content, String kind, String charset) {
        String text = new String(content, Charset.forName(charset));
        String plain = text.startsWith("\ufeff") ? text.substring(1) : text;
        ContactTable table = kind.equals("VCARD") ? ofCards(plain) : ofValues(plain);
        if (table.rows().isEmpty()) {
            throw new Problem.Invalid(
                    "There is no contact in this file. The first line of a table names its columns; contacts follow.");
        }
        return table;
    }

    // ------------------------------------------------------------------ values

    private static ContactTable ofValues(String text) {
        CSVFormat format = CSVFormat.RFC4180
                .builder()
                .setDelimiter(delimiter(text))
                .setIgnoreEmptyLines(true)
                .get();
        var rows = new ArrayList<List<String>>();
        try (CSVParser parser = CSVParser.parse(new StringReader(text), format)) {
            for (CSVRecord record : parser) {
                if (record.size() > MOST_COLUMNS) {
                    throw new Problem.Invalid("Line " + record.getRecordNumber() + " has " + record.size()
                            + " columns, and a table of contacts has at most " + MOST_COLUMNS
                            + ". Perhaps it is another file, or a quotation mark is missing.");
                }
                if (rows.size() > MOST_ROWS) {
                    throw new Problem.Invalid("A file has at most 100,000 contacts. Cut it into several.");
                }
                rows.add(record.toList());
            }
        } catch (IOException | UncheckedIOException | IllegalStateException e) {
            throw new Problem.Invalid(
                    "It cannot be read from line " + (rows.size() + 1)
                            + " on: a quotation mark is opened there and not closed, or stands within a word. Mend that line and choose the file again.");
        }
        return headed(rows);
    }

    /** The first row is the headings. */
    private static ContactTable headed(List<List<String>> rows) {
        if (rows.isEmpty()) {
            return new ContactTable(List.of(), List.of());
        }
        List<String> headings = rows.getFirst().stream()
                .map(one -> one.length() > LONGEST_HEADING ? one.substring(0, LONGEST_HEADING) : one.strip())
                .toList();
        return new ContactTable(headings, List.copyOf(rows.subList(1, rows.size())));
    }

    /** What parts the columns: what stands most often in the first line. */
    private static char delimiter(String text) {
        String first = text.lines().findFirst().orElse("");
        return Stream.of(',', ';', '\t')
                .max(Comparator.comparingLong(
                        sign -> first.chars().filter(c -> c == sign).count()))
                .orElse(',');
    }

    // ------------------------------------------------------------------ cards

    private static ContactTable ofCards(String text) {
        List<VCard> cards;
        try (var reader = new VCardReader(text)) {
            cards = reader.readAll();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        if (cards.size() > MOST_ROWS) {
            throw new Problem.Invalid("A file has at most 100,000 contacts. Cut it into several.");
        }
        return new ContactTable(
                OF_CARDS.stream().map(ContactColumn::words).toList(),
                cards.stream().map(ContactTable::row).toList());
    }

    private static List<String> row(VCard card) {
        return List.of(
                Optional.ofNullable(card.getFormattedName())
                        .map(name -> orBlank(name.getValue()))
                        .orElseGet(() -> Optional.ofNullable(card.getStructuredName())
                                .map(name -> (orBlank(name.getGiven()) + " " + orBlank(name.getFamily())).strip())
                                .orElse("")),
                card.getEmails().stream()
                        .map(Email::getValue)
                        .filter(one -> one != null)
                        .collect(Collectors.joining(";")),
                card.getTelephoneNumbers().stream().map(ContactTable::number).collect(Collectors.joining(";")),
                Optional.ofNullable(card.getOrganization())
                        .filter(firm -> !firm.getValues().isEmpty())
                        .map(firm -> orBlank(firm.getValues().getFirst()))
                        .orElse(""),
                card.getLanguages().stream()
                        .findFirst()
                        .map(Language::getValue)
                        .map(ContactTable::orBlank)
                        .orElse(""),
                Optional.ofNullable(card.getTimezone())
                        .map(zone -> orBlank(zone.getText()))
                        .orElse(""));
    }

    private static String number(Telephone telephone) {
        return telephone.getText() != null
                ? telephone.getText()
                : Optional.ofNullable(telephone.getUri())
                        .map(uri -> uri.getNumber())
                        .orElse("");
    }

    private static String orBlank(@Nullable String text) {
        return text == null ? "" : text;
    }

    /** What each column seems to be. */
    List<String> guessed(boolean ofCards) {
        return ofCards
                ? OF_CARDS.stream().map(ContactColumn::key).toList()
                : headings.stream()
                        .map(heading -> ContactColumn.meant(heading)
                                .map(ContactColumn::key)
                                .orElse(""))
                        .toList();
    }
}
