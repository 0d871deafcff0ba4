package rafter.app.work.imports;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.CONTACT_ADDRESS;

import ezvcard.VCard;
import ezvcard.VCardVersion;
import ezvcard.io.text.VCardWriter;
import ezvcard.property.Timezone;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.fields.AddedField;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.people.ContactColumns;
import rafter.app.platform.Csv;
import rafter.app.platform.Say;
import rafter.core.criteria.OwnField;

/** Writes all contacts as a table (RFC 4180) or as vCards (RFC 6350), as they can be brought in again. */
@Component
class Exporting {

    private static final int AT_ONCE = 1_000;

    /** A contact as it is written. */
    private record Row(
            String name,
            List<String> addresses,
            List<String> phones,
            String company,
            String language,
            String zone,
            Map<String, String> own) {}

    private final DSLContext sql;
    private final OwnFields fields;

    Exporting(DSLContext sql, OwnFields fields) {
        this.sql = sql;
        this.fields = fields;
    }

    /** Writes a table. */
    @Transactional(readOnly = true)
    void values(Writer out) throws IOException {
        List<AddedField> own = fields.shown(OwnField.Bearer.CONTACT);
        var printer = new CSVPrinter(out, CSVFormat.RFC4180);
        var headings =
                new ArrayList<>(List.of("Name", "Mail addresses", "Telephones", "Company", "Language", "Time zone"));
        own.forEach(field -> headings.add(field.name()));
        printer.printRecord(headings);
        each(row -> {
            var cells = new ArrayList<>(List.of(
                    row.name(),
                    String.join("; ", row.addresses()),
                    String.join("; ", row.phones()),
                    row.company(),
                    row.language(),
                    row.zone()));
            own.forEach(field -> cells.add(written(field, row.own().getOrDefault(field.key(), ""))));
            print(printer, cells.stream().map(Csv::harmless).toList());
        });
        printer.flush();
    }

    /** So that an import of the same file reads the same: several values a line each, people and companies by their names. */
    private String written(AddedField field, String kept) {
        return field.field().kind() == OwnField.Kind.SEVERAL ? kept : fields.said(field.field(), kept);
    }

    private static void print(CSVPrinter printer, List<String> cells) {
        try {
            printer.printRecord(cells);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Writes vCards. */
    @Transactional(readOnly = true)
    void cards(Writer out) throws IOException {
        var writer = new VCardWriter(out, VCardVersion.V4_0);
        each(row -> {
            var card = new VCard();
            card.setFormattedName(row.name());
            row.addresses().forEach(card::addEmail);
            row.phones().forEach(card::addTelephoneNumber);
            if (!row.company().isEmpty()) {
                card.setOrganization(row.company());
            }
            if (!row.language().isEmpty()) {
                card.addLanguage(row.language());
            }
            if (!row.zone().isEmpty()) {
                card.setTimezone(new Timezone(row.zone()));
            }
            try {
                writer.write(card);
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        });
        writer.flush();
    }

    private void each(Consumer<Row> what) {
        try (var cursor = sql.select(
                        CONTACT.NAME,
                        ContactColumns.addresses(),
                        ContactColumns.phones(),
                        COMPANY.NAME,
                        CONTACT.LANGUAGE,
                        CONTACT.ZONE,
                        CONTACT.OWN)
                .from(CONTACT)
                .leftJoin(COMPANY)
                .on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                .where(DSL.exists(
                        DSL.selectOne().from(CONTACT_ADDRESS).where(CONTACT_ADDRESS.CONTACT_ID.eq(CONTACT.ID))))
                .orderBy(CONTACT.NAME_WORDS, CONTACT.ID)
                .fetchSize(AT_ONCE)
                .fetchLazy()) {
            cursor.forEach(r -> what.accept(new Row(
                    r.value1(),
                    ContactColumns.list(r.value2()),
                    ContactColumns.list(r.value3()),
                    Say.orBlank(r.value4()),
                    r.value5(),
                    r.value6(),
                    Optional.of(r.value7()).map(OwnFields::read).orElse(Map.of()))));
        }
    }
}
