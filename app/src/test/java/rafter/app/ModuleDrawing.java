package rafter.app;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.springframework.modulith.core.ApplicationModules;

/** Draws the house: areas as floors, features as rooms, and a line from each feature to those it stands on. */
final class ModuleDrawing {

    /** From the roof down; two areas that do not know each other share a floor. */
    private static final List<List<String>> FLOORS = List.of(
            List.of("arrival", "handout", "work"),
            List.of("tickets"),
            List.of("promises"),
            List.of("house"),
            List.of("platform"));

    private static final int ROOM = 104;
    private static final int GAP = 14;
    private static final int FLOOR = 116;

    private record Room(String feature, int x, int y) {}

    private ModuleDrawing() {}

    /** The drawing as SVG. */
    static String draw(ApplicationModules modules) {
        Map<String, TreeSet<String>> standsOn = modules.stream()
                .collect(Collectors.toMap(
                        module -> module.getIdentifier().toString(),
                        module -> module.getDirectDependencies(modules).stream()
                                .map(dependency -> dependency
                                        .getTargetModule()
                                        .getIdentifier()
                                        .toString())
                                .collect(Collectors.toCollection(TreeSet::new))));
        Map<String, Room> rooms = rooms(new TreeSet<>(standsOn.keySet()));
        int width = rooms.values().stream().mapToInt(Room::x).max().orElse(0) + ROOM + 40;
        var svg = new StringBuilder();
        svg.append("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 %d %d\" font-family=\"sans-serif\">\n"
                .formatted(width, FLOOR * FLOORS.size() + 20));
        svg.append("<title>The features of Rafter by area; each stands on those its lines lead down to</title>\n");
        for (int i = 0; i < FLOORS.size(); i++) {
            svg.append("<rect x=\"8\" y=\"%d\" width=\"%d\" height=\"%d\" rx=\"6\" fill=\"%s\"/>\n"
                    .formatted(10 + i * FLOOR, width - 16, FLOOR - 8, i % 2 == 0 ? "#f2efe8" : "#e9eef0"));
        }
        // Everything stands on the platform, so no lines say it.
        for (String from : new TreeSet<>(standsOn.keySet())) {
            standsOn.get(from).stream()
                    .filter(to -> !to.equals("platform"))
                    .forEach(to -> svg.append(line(rooms.get(from), rooms.get(to))));
        }
        rooms.values().forEach(room -> svg.append(room(room)));
        return svg.append("</svg>\n").toString();
    }

    private static Map<String, Room> rooms(TreeSet<String> features) {
        var rooms = new LinkedHashMap<String, Room>();
        for (int floor = 0; floor < FLOORS.size(); floor++) {
            int x = 24;
            for (String area : FLOORS.get(floor)) {
                var own = new ArrayList<>(features);
                own.removeIf(feature -> !feature.split("\\.")[0].equals(area));
                for (String feature : own) {
                    rooms.put(feature, new Room(feature, x, 46 + floor * FLOOR));
                    x += ROOM + GAP;
                }
                x += GAP * 2;
            }
        }
        return rooms;
    }

    private static String line(Room from, Room to) {
        int x1 = from.x() + ROOM / 2;
        int x2 = to.x() + ROOM / 2;
        boolean same = from.y() == to.y();
        int y1 = same ? from.y() : from.y() + 40;
        String path = same
                ? "M%d %d C%d %d %d %d %d %d".formatted(x1, y1, x1, y1 - 26, x2, y1 - 26, x2, y1)
                : "M%d %d C%d %d %d %d %d %d".formatted(x1, y1, x1, y1 + 40, x2, to.y() - 40, x2, to.y());
        return "<path d=\"%s\" fill=\"none\" stroke=\"#5a6b73\" stroke-opacity=\"0.35\"><title>%s stands on %s</title></path>\n"
                .formatted(path, from.feature(), to.feature());
    }

    private static String room(Room room) {
        String[] name = room.feature().split("\\.");
        String area = name.length > 1 ? name[0] : "";
        return ("<g><rect x=\"%d\" y=\"%d\" width=\"%d\" height=\"40\" rx=\"4\" fill=\"#fff\" stroke=\"#35505c\"/>"
                        + "<text x=\"%d\" y=\"%d\" text-anchor=\"middle\" font-size=\"10\" fill=\"#5a6b73\">%s</text>"
                        + "<text x=\"%d\" y=\"%d\" text-anchor=\"middle\" font-size=\"14\" fill=\"#1d2b31\">%s</text></g>\n")
                .formatted(
                        room.x(),
                        room.y(),
                        ROOM,
                        room.x() + ROOM / 2,
                        room.y() + 14,
                        area,
                        room.x() + ROOM / 2,
                        room.y() + 31,
                        name[name.length - 1]);
    }
}
