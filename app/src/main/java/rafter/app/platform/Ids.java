package rafter.app.platform;

import java.util.Arrays;
import java.util.Collection;
import java.util.Optional;
import java.util.function.LongFunction;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.springframework.core.convert.converter.Converter;
import org.springframework.format.FormatterRegistry;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.id.ExpertId;
import rafter.core.id.Id;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;

/** Ids where the application meets the outside: in addresses and forms, and in SQL. */
@Component
public class Ids implements WebMvcConfigurer {

    private static final Pattern NUMBER = Pattern.compile("\\d{1,18}");

    @Override
    public void addFormatters(FormatterRegistry registry) {
        registry.addConverter(String.class, TicketNumber.class, reading(TicketNumber::new));
        registry.addConverter(String.class, PersonId.class, reading(PersonId::new));
        registry.addConverter(String.class, TeamId.class, reading(TeamId::new));
        registry.addConverter(String.class, ContactId.class, reading(ContactId::new));
        registry.addConverter(String.class, CompanyId.class, reading(CompanyId::new));
        registry.addConverter(String.class, QueueId.class, reading(QueueId::new));
        registry.addConverter(String.class, ExpertId.class, reading(ExpertId::new));
        registry.addConverter(String.class, SkillId.class, reading(SkillId::new));
        registry.addConverter(String.class, MessageId.class, reading(MessageId::new));
    }

    /** As for numbers, a field that was left empty is as though it were not there, which the framework says by null. */
    @SuppressWarnings("NullAway")
    private static <T extends Id> Converter<String, T> reading(LongFunction<T> as) {
        return text -> text.isBlank() ? null : needed(text, as);
    }

    private static <T extends Id> T needed(String text, LongFunction<T> as) {
        return Id.read(text, as).orElseThrow(() -> new IllegalArgumentException("no id: " + text));
    }

    /** Ids written one after the other with commas between; what is none is passed over, and none comes twice. */
    public static <T extends Id> Stream<T> list(String written, LongFunction<T> as) {
        return Arrays.stream(written.split(","))
                .flatMap(one -> Id.read(one, as).stream())
                .distinct();
    }

    /** The number of something that has no type of its own, as a form says it; nothing when it is none. */
    public static Optional<Long> number(String typed) {
        return NUMBER.matcher(typed).matches() ? Optional.of(Long.parseLong(typed)) : Optional.empty();
    }

    /** That a column holds one of many ids, which are handed over as one parameter, so that their number does not matter. */
    public static <T extends Id> Condition among(Field<T> column, Collection<T> ids) {
        Long[] values = ids.stream().distinct().map(Id::value).toArray(Long[]::new);
        return DSL.condition("{0} = any({1})", column, DSL.val(values));
    }
}
