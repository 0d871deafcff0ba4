package rafter.app.work.imports;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.AUDIT;

import java.io.StringWriter;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.house.people.Companies;
import rafter.app.house.people.ContactCard;
import rafter.app.house.people.ContactCards;
import rafter.app.house.people.Contacts;
import rafter.app.platform.BackgroundWork;
import rafter.app.platform.Problem;

/** Contacts come in from files: tried first, each row once, nothing taken away, and every row that is left out says why. */
@ExtendWith(RunningApp.class)
class ImportsTest extends Browsing {

    private final Imports imports = bean(Imports.class);
    private final int nth = unique();
    private final String at = "@import" + nth + ".example";

    private long take(String text) {
        return imports.take("contacts.csv", text.getBytes(StandardCharsets.UTF_8), ravi());
    }

    private long mapped(String text) {
        long id = take(text);
        imports.map(id, List.of(imports.find(id, ravi()).getMapping()), "UTF-8", true, ravi());
        return id;
    }

    private void bringIn(long id) {
        imports.begin(id, ravi());
        imports.run(id);
    }

    private ContactCard card(String address) {
        return bean(ContactCards.class)
                .get(bean(Contacts.class).find(address).orElseThrow().id());
    }

    @Test
    void what_is_tried_comes_of_it_and_imported_twice_it_is_as_it_was() {
        String file = "Full name,E-mail,Phone,Company,Language,Time zone\r\n"
                + "\"Reiss, Dov\",Dov" + at + ",+47 55 01 02 03,Brightwater Produce,German,Europe/Oslo\r\n"
                + "Ada,ada" + at + ",,New Firm " + nth + ",,\r\n";
        long id = mapped(file);
        Imports.Tried tried = imports.attempt(id, ravi());
        assertThat(tried)
                .extracting(Imports.Tried::added, Imports.Tried::changed, Imports.Tried::same)
                .containsExactly(2, 0, 0);
        assertThat(bean(Contacts.class).find("dov" + at))
                .as("tried is not imported")
                .isEmpty();
        bringIn(id);
        ContactCard dov = card("dov" + at);
        assertThat(dov.name()).isEqualTo("Reiss, Dov");
        assertThat(dov.phones()).containsExactly("+47 55 01 02 03");
        assertThat(dov.language()).isEqualTo("de");
        assertThat(dov.zone()).isEqualTo("Europe/Oslo");
        assertThat(bean(Companies.class)
                        .find(dov.company().orElseThrow())
                        .orElseThrow()
                        .name())
                .isEqualTo("Brightwater Produce");
        assertThat(bean(Companies.class)
                        .find(card("ada" + at).company().orElseThrow())
                        .orElseThrow()
                        .name())
                .isEqualTo("New Firm " + nth);
        long again = mapped(file);
        assertThat(imports.attempt(again, ravi()))
                .extracting(Imports.Tried::added, Imports.Tried::changed, Imports.Tried::same)
                .containsExactly(0, 0, 2);
        bringIn(again);
        assertThat(card("dov" + at)).isEqualTo(dov);
    }

    @Test
    void a_contact_that_is_there_gets_what_is_new_and_keeps_what_it_has() {
        bringIn(mapped("Name,Mail,Phone\nDov,dov" + at + ",+47 55 01 02 03\n"));
        bringIn(mapped("Name,Mail,Phone\n,dov" + at + ";second" + at + ",+47 91 23 45 67\n"));
        ContactCard dov = card("second" + at);
        assertThat(dov.name()).isEqualTo("Dov");
        assertThat(dov.addresses()).containsExactly("dov" + at, "second" + at);
        assertThat(dov.phones()).containsExactly("+47 55 01 02 03", "+47 91 23 45 67");
    }

    @Test
    void many_are_changed_together_and_one_that_has_no_room_is_left_with_its_reason() {
        String crowd = IntStream.range(0, 15).mapToObj(i -> "c" + i + at).collect(Collectors.joining(";"));
        String more = IntStream.range(15, 25).mapToObj(i -> "c" + i + at).collect(Collectors.joining(";"));
        bringIn(mapped(
                "Name,Mail,Company\nDov,dov" + at + ",First " + nth + "\nEva,eva" + at + ",\nCrowd," + crowd + ",\n"));
        long id = mapped("Name,Mail,Company\nDov Reiss,dov" + at + ",Second " + nth + "\nEva,eva" + at + ",Second "
                + nth + "\nCrowd,c0" + at + ";" + more + ",\n");
        assertThat(imports.attempt(id, ravi()).changed()).isEqualTo(3);
        bringIn(id);
        assertThat(imports.problems(id)).containsOnlyKeys(4);
        assertThat(imports.problems(id).get(4)).contains("at most 20 mail addresses");
        assertThat(imports.find(id, ravi()).getChanged()).isEqualTo(2);
        assertThat(card("dov" + at).name()).isEqualTo("Dov Reiss");
        assertThat(card("dov" + at).version()).isEqualTo(1);
        assertThat(card("eva" + at).company())
                .isEqualTo(card("dov" + at).company())
                .isPresent();
        assertThat(card("c0" + at).addresses()).hasSize(15);
        assertThat(sql().fetchCount(AUDIT, AUDIT.ACT.eq("changed contact").and(AUDIT.DETAIL.eq("Dov Reiss"))))
                .isPositive();
    }

    @Test
    void who_comes_without_a_company_belongs_to_that_of_their_domain() {
        bringIn(mapped("Name,Mail\nLu,lu" + nth + "@harbour.brightwater.example\n"));
        assertThat(bean(Companies.class)
                        .find(card("lu" + nth + "@harbour.brightwater.example")
                                .company()
                                .orElseThrow())
                        .orElseThrow()
                        .name())
                .isEqualTo("Brightwater Produce");
    }

    @Test
    void without_leave_to_change_only_new_ones_come_in() {
        bringIn(mapped("Name,Mail\nDov,dov" + at + "\n"));
        long id = take("Name,Mail\nDavid,dov" + at + "\nEva,eva" + at + "\n");
        imports.map(id, List.of("name", "address"), "UTF-8", false, ravi());
        bringIn(id);
        assertThat(card("dov" + at).name()).isEqualTo("Dov");
        assertThat(card("eva" + at).name()).isEqualTo("Eva");
    }

    @Test
    void rows_that_cannot_be_say_why_and_the_others_come_in() {
        long id = mapped("Name,Mail\nA,a" + at + "\nB,nobody\nC,\nD,A" + at + "\nE,e" + at + "\n");
        bringIn(id);
        assertThat(imports.problems(id)).containsOnlyKeys(3, 4, 5);
        assertThat(imports.problems(id).get(5)).contains("stands in line 2 already");
        assertThat(card("e" + at).name()).isEqualTo("E");
        assertThat(imports.find(id, ravi()).getAdded()).isEqualTo(2);
        assertThat(imports.progress(id).map(BackgroundWork.Work::finished)).contains(true);
    }

    @Test
    void a_row_whose_addresses_are_of_two_contacts_is_left_to_people() {
        bringIn(mapped("Name,Mail\nA,a" + at + "\nB,b" + at + "\n"));
        long id = mapped("Name,Mail\nBoth,a" + at + ";b" + at + "\n");
        assertThat(imports.attempt(id, ravi()).wrong().get(2)).contains("belong to several contacts");
    }

    @Test
    void another_encoding_is_recognised_and_can_be_chosen() {
        byte[] western = ("Name;Mail\nJörg Åse;jorg" + at + "\n").getBytes(Charset.forName("windows-1252"));
        long id = imports.take("western.csv", western, ravi());
        assertThat(imports.find(id, ravi()).getCharset()).isEqualTo("windows-1252");
        bringIn(id);
        assertThat(card("jorg" + at).name()).isEqualTo("Jörg Åse");
    }

    @Test
    void files_that_are_none_are_refused_with_where_it_goes_wrong() {
        assertThatThrownBy(() -> take("Name,Mail\nA,a@x.example\n\"never closed,b@x.example\nC,c@x.example\n"))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining("line 3")
                .hasMessageContaining("quotation mark");
        String wide = IntStream.range(0, 1_000_000).mapToObj(i -> "c").collect(Collectors.joining(","));
        assertThatThrownBy(() -> take(wide + "\n" + wide)).hasMessageContaining("1000000 columns");
        assertThatThrownBy(() -> take("Name,Mail\n")).hasMessageContaining("no contact in this file");
        assertThatThrownBy(() -> take("")).hasMessageContaining("empty");
        long id = take("Name,Shoe\nA,b\n");
        assertThatThrownBy(() -> imports.map(id, List.of("name", ""), "UTF-8", true, ravi()))
                .hasMessageContaining("which column has the mail addresses");
    }

    @Test
    void cards_come_in_as_tables_do() {
        String cards = "BEGIN:VCARD\r\nVERSION:3.0\r\nFN:Kim Lund\r\nEMAIL;TYPE=work:kim" + at
                + "\r\nTEL:+47 55 01 02 99\r\nORG:Vessa Brewing Co.\r\nEND:VCARD\r\n"
                + "BEGIN:VCARD\r\nVERSION:4.0\r\nFN:No Mail\r\nEND:VCARD\r\n";
        long id = imports.take("cards.vcf", cards.getBytes(StandardCharsets.UTF_8), ravi());
        bringIn(id);
        assertThat(card("kim" + at).phones()).containsExactly("+47 55 01 02 99");
        assertThat(imports.problems(id)).containsOnlyKeys(3);
    }

    @Test
    void what_is_exported_comes_in_again_as_it_was() throws Exception {
        bringIn(mapped("Name,Mail,Phone,Language\n=cmd,x" + at + ",+47 55 01 02 03,de\n"));
        ContactCard before = card("x" + at);
        var csv = new StringWriter();
        bean(Exporting.class).values(csv);
        String line = csv.toString()
                .lines()
                .filter(one -> one.contains("x" + at))
                .findFirst()
                .orElseThrow();
        assertThat(line).startsWith("'=cmd").contains("'+47");
        String headings = csv.toString().lines().findFirst().orElseThrow();
        long id = mapped(headings + "\n" + line + "\n");
        assertThat(imports.attempt(id, ravi()).same()).isEqualTo(1);
        var cards = new StringWriter();
        bean(Exporting.class).cards(cards);
        assertThat(cards.toString()).contains("EMAIL:x" + at);
        assertThat(card("x" + at)).isEqualTo(before);
    }

    @Test
    void only_administrators_import_and_the_pages_lead_through_it() throws Exception {
        assertThatThrownBy(() -> imports.take("a.csv", new byte[] {1}, imani())).isInstanceOf(Problem.NoRight.class);
        signIn("ravi@ternpassage.example", RunningApp.PASSWORD);
        long id = take("Name,Mail\nPage,page" + at + "\n");
        String path = "/people/import/" + id;
        assertThat(get(path).body()).contains("page" + at).contains("Nothing is imported yet");
        String tried = post(
                        path,
                        token(get(path)),
                        "target",
                        "name",
                        "target",
                        "address",
                        "charset",
                        "UTF-8",
                        "updates",
                        "true")
                .body();
        assertThat(tried).contains("What would come of it").contains("Import them");
        post(path + "/begin", token(get(path)));
        imports.run(id);
        assertThat(get(path).body()).contains("1 added");
        assertThat(get("/people/import").body()).contains("contacts.csv");
    }
}
