package rafter.core.id;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import rafter.core.json.StrictJson;
import tools.jackson.databind.module.SimpleModule;

class IdTest {

    @Test
    void it_is_read_as_people_write_it_and_written_as_its_number() {
        assertThat(Id.read(" 4471 ", TicketNumber::new)).contains(new TicketNumber(4471));
        assertThat(new TicketNumber(4471)).hasToString("4471");
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "-1", "4 471", "1e3", "4471x", "9999999999999999999", "٤"})
    void what_is_no_number_is_no_id(String text) {
        assertThat(Id.read(text, PersonId::new)).isEmpty();
    }

    @Test
    void in_json_it_is_its_number_alone() {
        var json = StrictJson.mapper(new SimpleModule());
        record Kept(PersonId person, Optional<TeamId> team) {}
        String written = json.writeValueAsString(new Kept(new PersonId(3), Optional.of(new TeamId(2))));
        assertThat(written).isEqualTo("{\"person\":3,\"team\":2}");
        assertThat(json.readValue(written, Kept.class))
                .isEqualTo(new Kept(new PersonId(3), Optional.of(new TeamId(2))));
    }

    @Test
    void ids_of_two_kinds_are_never_the_same_and_those_of_one_are_in_order_of_their_numbers() {
        assertThat((Object) new PersonId(3)).isNotEqualTo(new TeamId(3));
        assertThat(List.of(new TeamId(20), new TeamId(3)).stream().sorted())
                .containsExactly(new TeamId(3), new TeamId(20));
        assertThat(new TeamId(0).none()).isTrue();
        assertThat(new TeamId(3).none()).isFalse();
    }
}
