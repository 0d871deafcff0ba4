package rafter.app;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;

import java.net.URLEncoder;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeSet;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.web.bind.annotation.RequestMethod;
import org.springframework.web.method.HandlerMethod;
import org.springframework.web.servlet.mvc.method.RequestMappingInfo;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;

/**
 * Every address of the application, asked with odd values from a fixed seed: nothing breaks, and nothing keeps a page waiting. It changes what it
 * can, so it runs after all others: by its order where one process runs them, by its name where they are shared out from the last letter to the first.
 */
@Order(Integer.MAX_VALUE)
@ExtendWith(RunningApp.class)
class FuzzTest extends Browsing {

    private static final List<String> ODD = List.of(
            "",
            "0",
            "-1",
            "1",
            "99999999999999999999",
            "abc",
            "{",
            "}",
            "{\"all\":\"x\"}",
            "[]",
            "null",
            "%",
            "%00",
            "'",
            "\"",
            "<b>",
            "../..",
            "a,b,c",
            "2027-03-01",
            "9999-99-99",
            "+999999999-01-01",
            "24:00",
            "open",
            "P1",
            "ÅÆØ",
            "\u202e",
            "😀",
            " ",
            "a".repeat(3_000),
            "FREQ=DAILY;INTERVAL=2147483647",
            "{\"all\":[{\"field\":\"tags\",\"has-any\":[\"x\"]}],\"version\":1}",
            "-next-due,oldest",
            "cards",
            "lanes",
            "true",
            "1e9",
            "0x10",
            "NaN");
    private static final Duration LONGEST = Duration.ofSeconds(5);

    private record Address(RequestMethod method, String path, List<String> parameters) {}

    /** What ends the session or never ends is left out; so is what takes files, for its form is another one. */
    private static List<Address> addresses() {
        var all = new ArrayList<Address>();
        for (Map.Entry<RequestMappingInfo, HandlerMethod> one :
                bean(RequestMappingHandlerMapping.class).getHandlerMethods().entrySet()) {
            boolean ours = one.getValue().getBeanType().getName().startsWith("rafter.");
            List<String> parameters = Arrays.stream(one.getValue().getMethodParameters())
                    .flatMap(p -> names(p).stream())
                    .toList();
            for (String path : new TreeSet<>(one.getKey().getPatternValues())) {
                if (ours && !path.equals("/live") && !path.equals("/error") && !path.contains("/import")) {
                    RequestMethod method = one.getKey().getMethodsCondition().getMethods().stream()
                            .findFirst()
                            .orElse(RequestMethod.GET);
                    all.add(new Address(method, path, parameters));
                }
            }
        }
        all.sort(java.util.Comparator.comparing(Address::path).thenComparing(Address::method));
        return all;
    }

    private static List<String> names(org.springframework.core.MethodParameter parameter) {
        parameter.initParameterNameDiscovery(new org.springframework.core.DefaultParameterNameDiscoverer());
        Class<?> type = parameter.getParameterType();
        if (type.isRecord()) {
            return Arrays.stream(type.getRecordComponents())
                    .map(java.lang.reflect.RecordComponent::getName)
                    .toList();
        }
        String name = parameter.getParameterName();
        return name == null
                        || type.getName().startsWith("jakarta.")
                        || type.getName().startsWith("org.springframework.ui")
                ? List.of()
                : List.of(name);
    }

    private static String encode(String value) {
        return URLEncoder.encode(value, StandardCharsets.UTF_8);
    }

    @Test
    void no_address_breaks_or_hangs_on_odd_values() throws Exception {
        var random = new Random(20270301);
        signIn("ravi@ternpassage.example", RunningApp.PASSWORD);
        String token = token(get("/worklist"));
        var broken = new ArrayList<String>();
        int asked = 0;
        for (Address address : addresses()) {
            for (int round = 0; round < 6; round++) {
                String path = address.path()
                        .replaceAll(
                                "\\{[^}]*}",
                                encode(round < 2 ? "1" : ODD.get(random.nextInt(ODD.size())))
                                        .replace("+", "%20")
                                        .replace("%2F", "x")
                                        .replace("%00", "x")
                                        .replace("..", "x"));
                var fields = new ArrayList<String>();
                for (String name : address.parameters()) {
                    if (round > 0 && random.nextInt(5) > 0) {
                        fields.add(name);
                        fields.add(ODD.get(random.nextInt(ODD.size())));
                    }
                }
                long start = System.nanoTime();
                HttpResponse<String> answer = address.method() == RequestMethod.GET
                        ? get(path + query(fields))
                        : post(path, token, fields.toArray(String[]::new));
                Duration took = Duration.ofNanos(System.nanoTime() - start);
                asked++;
                if (answer.statusCode() >= 500 || took.compareTo(LONGEST) > 0) {
                    broken.add(address.method() + " " + path + " " + shortened(fields) + ": " + answer.statusCode()
                            + " in " + took.toMillis() + " ms");
                }
            }
        }
        assertThat(asked).isGreaterThan(300);
        assertThat(broken).isEmpty();
    }

    private static String shortened(List<String> fields) {
        return fields.stream()
                .map(field -> field.length() > 60 ? field.substring(0, 60) + "…" : field)
                .toList()
                .toString();
    }

    private static String query(List<String> fields) {
        var query = new StringBuilder();
        for (int i = 0; i < fields.size(); i += 2) {
            query.append(i == 0 ? '?' : '&').append(fields.get(i)).append('=').append(encode(fields.get(i + 1)));
        }
        return query.toString();
    }
}
