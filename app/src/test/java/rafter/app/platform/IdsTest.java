package rafter.app.platform;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import org.junit.jupiter.api.Test;
import org.springframework.core.convert.ConversionException;
import org.springframework.format.support.DefaultFormattingConversionService;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;

class IdsTest {

    private final DefaultFormattingConversionService forms = new DefaultFormattingConversionService();

    {
        new Ids().addFormatters(forms);
    }

    @Test
    void a_field_that_was_left_empty_is_as_though_it_were_not_there() {
        assertThat(forms.convert("", TeamId.class)).isNull();
        assertThat(forms.convert("3", TeamId.class)).isEqualTo(new TeamId(3));
    }

    @Test
    void what_is_no_id_is_refused() {
        assertThatThrownBy(() -> forms.convert("3x", TeamId.class)).isInstanceOf(ConversionException.class);
    }

    @Test
    void a_list_of_ids_is_read_without_what_is_none_and_each_once() {
        assertThat(Ids.list("4471, 4472,,x,4471", TicketNumber::new))
                .containsExactly(new TicketNumber(4471), new TicketNumber(4472));
    }
}
