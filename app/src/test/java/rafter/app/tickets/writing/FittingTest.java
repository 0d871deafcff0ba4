package rafter.app.tickets.writing;

import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import org.junit.jupiter.api.Test;
import rafter.app.platform.Problem;
import rafter.app.tickets.channel.Abilities;
import rafter.app.tickets.channel.Channel;
import rafter.app.tickets.channel.Delivery;
import rafter.app.tickets.channel.OurAddress;
import rafter.app.tickets.channel.Outgoing;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;

class FittingTest {

    private static final Drafts.DraftFile SLOT =
            new Drafts.DraftFile(1, "slot.pdf", "application/pdf", 9, new byte[32], "");

    /** A channel of short plain words. */
    private record Radio(Abilities abilities) implements Channel {
        static Radio that(boolean more) {
            return new Radio(new Abilities(
                    true,
                    false,
                    more ? OptionalInt.empty() : OptionalInt.of(12),
                    more,
                    false,
                    more,
                    false,
                    "it was sent"));
        }

        @Override
        public String key() {
            return "radio";
        }

        @Override
        public String name() {
            return "radio";
        }

        @Override
        public String settings() {
            return "/house-rules/radio";
        }

        @Override
        public List<OurAddress> addresses() {
            return List.of();
        }

        @Override
        public Optional<OurAddress> ours(long id) {
            return Optional.empty();
        }

        @Override
        public boolean isOurs(String address) {
            return false;
        }

        @Override
        public boolean writable(String address) {
            return true;
        }

        @Override
        public List<String> typed(String list, String where) {
            return Arrays.asList(list.split(" "));
        }

        @Override
        public String newIdentity(TicketNumber ticket, OurAddress from) {
            return "";
        }

        @Override
        public void send(Outgoing message) {}

        @Override
        public Map<MessageId, Delivery> deliveries(Collection<MessageId> entries) {
            return Map.of();
        }

        @Override
        public void again(long delivery, Instant now, PersonId by) {}
    }

    @Test
    void a_message_longer_than_the_channel_carries_is_refused_with_both_lengths() {
        assertThatThrownBy(() -> Fitting.insist(Radio.that(false), "Thirteen sign", List.of(), List.of()))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining("at most 12 letters; this one has 13")
                .hasMessageContaining("your text is saved");
        assertThatCode(() -> Fitting.insist(Radio.that(false), "Twelve signs", List.of(), List.of()))
                .doesNotThrowAnyException();
    }

    @Test
    void a_letter_is_one_however_many_places_it_takes() {
        assertThatCode(() -> Fitting.insist(Radio.that(false), "⚓\uD83D\uDEA2".repeat(6), List.of(), List.of()))
                .doesNotThrowAnyException();
    }

    @Test
    void files_and_copies_are_refused_where_they_cannot_go_along() {
        assertThatThrownBy(() -> Fitting.insist(Radio.that(false), "Here", List.of(SLOT), List.of()))
                .hasMessageContaining("No files can be sent by radio");
        assertThatThrownBy(() -> Fitting.insist(Radio.that(false), "Here", List.of(), List.of("mia@post.example")))
                .hasMessageContaining("No copies can be sent by radio");
        assertThatCode(() -> Fitting.insist(Radio.that(true), "Here", List.of(SLOT), List.of("mia@post.example")))
                .doesNotThrowAnyException();
    }
}
