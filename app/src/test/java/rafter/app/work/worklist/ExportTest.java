package rafter.app.work.worklist;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.unique;

import java.io.StringReader;
import java.net.URLEncoder;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.tickets.acts.Acts;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.CriteriaJson;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Priority;

/** Lists as files. */
@ExtendWith(RunningApp.class)
class ExportTest extends Browsing {

    private final String word = "exportable" + unique();
    private final List<TicketNumber> numbers = new ArrayList<>();

    @BeforeEach
    void tickets() throws Exception {
        numbers.add(ticket(word + " one, with a comma"));
        numbers.add(ticket("=cmd|' /C calc'!A0 " + word));
        numbers.add(ticket("“" + word + "” and \"quotes\""));
        bean(Acts.class).perform(numbers.get(1), new Act.SetPriority(Priority.P1), odile());
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
    }

    private static TicketNumber ticket(String subject) {
        String raw = "From: Ann Lee <ann@x" + unique() + ".example>\nMessage-ID: <x" + unique()
                + "@x.example>\nContent-Type: text/plain; charset=utf-8\nSubject: =?utf-8?B?"
                + java.util.Base64.getEncoder().encodeToString(subject.getBytes(StandardCharsets.UTF_8))
                + "?=\n\nHello";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private String query(String more) {
        String criteria = CriteriaJson.write(Criteria.test(KnownField.SUBJECT, Operator.HAS_ANY, word));
        return "/worklist/export?view=open&q=" + URLEncoder.encode(criteria, StandardCharsets.UTF_8) + more;
    }

    private static List<CSVRecord> read(HttpResponse<String> answer) throws Exception {
        return CSVFormat.RFC4180
                .builder()
                .setHeader()
                .setSkipHeaderRecord(true)
                .get()
                .parse(new StringReader(answer.body()))
                .getRecords();
    }

    @Test
    void a_list_is_exported_in_its_order_with_the_columns_of_its_grid() throws Exception {
        HttpResponse<String> answer = get(query("&shape=grid&cols=number,priority,subject,age,owner&sort=priority"));
        assertThat(answer.headers().firstValue("Content-Type")).hasValue("text/csv;charset=UTF-8");
        assertThat(answer.headers().firstValue("Content-Disposition").orElse(""))
                .contains("attachment", "Everything");
        List<CSVRecord> lines = read(answer);
        assertThat(lines.getFirst().toMap().keySet())
                .containsExactlyInAnyOrder("Number", "Priority", "Subject", "Age", "Owner");
        assertThat(lines)
                .extracting(line -> new TicketNumber(Long.parseLong(line.get("Number"))))
                .containsExactlyInAnyOrderElementsOf(numbers)
                .startsWith(numbers.get(1));
        assertThat(lines).extracting(line -> line.get("Subject")).contains("“" + word + "” and \"quotes\"");
        assertThat(OffsetDateTime.parse(lines.getFirst().get("Age")).toInstant())
                .isEqualTo(RunningApp.clock().instant());
    }

    @Test
    void a_formula_that_a_stranger_wrote_is_a_text_in_the_file() throws Exception {
        assertThat(read(get(query("&shape=grid&sort=priority"))).getFirst().get("Subject"))
                .startsWith("'=cmd");
    }

    @Test
    void every_column_is_shown_and_exported() throws Exception {
        bean(Acts.class).perform(numbers.get(0), new Act.SetTopic("billing"), imani());
        String all = Arrays.stream(KnownColumn.values()).map(KnownColumn::key).collect(Collectors.joining(","));
        CSVRecord line = read(get(query("&shape=grid&cols=" + all))).stream()
                .filter(one -> one.get("Number").equals(numbers.get(0).toString()))
                .findFirst()
                .orElseThrow();
        assertThat(line.toMap())
                .hasSize(KnownColumn.values().length)
                .containsEntry("Customer", "Ann Lee")
                .containsEntry("State", "New")
                .containsEntry("Topic", "billing")
                .containsEntry("Channel", "email")
                .containsEntry("Messages", "2");
        String page = get(query("&shape=grid&cols=" + all).replace("/worklist/export", "/worklist"))
                .body();
        for (KnownColumn column : KnownColumn.values()) {
            assertThat(page).contains("c-" + column.key() + "\"");
        }
    }

    @Test
    void what_cannot_be_read_of_the_address_is_said_and_nobody_exports_unsigned() throws Exception {
        assertThat(get("/worklist/export?view=nosuch").statusCode()).isEqualTo(404);
        var stranger = new Browsing() {
            HttpResponse<String> ask(String path) throws Exception {
                return get(path);
            }
        };
        assertThat(stranger.ask(query("")).uri().getPath()).isEqualTo("/sign-in");
    }
}
