package rafter.core.text;

import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;

/** The lines with which mail programs introduce an earlier message, in the main European languages and a few more. They prove nothing by themselves. */
final class Introductions {

    private static final int LONGEST = 400;
    private static final int MOST_LINES = 4;

    /** Words that say "wrote", folded. */
    private static final Set<String> WROTE = folded(
            "wrote",
            "writes",
            "said",
            "schrieb",
            "schrieben",
            "geschrieben",
            "skrev",
            "skreiv",
            "schreef",
            "geschreven",
            "escribió",
            "escreveu",
            "scritto",
            "scrive",
            "écrit",
            "escriure",
            "escrit",
            "napisał",
            "napisała",
            "napisali",
            "pisze",
            "napsal",
            "napsala",
            "napsal(a)",
            "napísal",
            "napísala",
            "napisao",
            "napisala",
            "napisal",
            "написал",
            "написала",
            "написав",
            "пише",
            "пишет",
            "написа",
            "írta",
            "kirjoitti",
            "kirjutas",
            "rakstīja",
            "rašė",
            "yazdı",
            "έγραψε",
            "skrifaði",
            "scris",
            "idatzi");
    /** With these an attribution may begin that is broken over several lines, folded. */
    private static final Set<String> BEGINS = folded(
            "on", "am", "den", "le", "el", "op", "på", "il", "em", "w", "dnia", "dne", "dňa", "ons", "man", "tir",
            "tor", "fre", "lør", "søn", "mon", "tue", "wed", "thu", "fri", "sat", "sun", "mo", "di", "mi", "do", "fr",
            "sa", "so", "lun", "mar", "mer", "jeu", "ven", "sam", "dim", "ma", "ti", "ke", "to", "pe", "la", "su", "a",
            "u", "dana", "från", "von", "from");

    private static final List<String> WROTE_WITHOUT_BLANKS =
            List.of("写道", "寫道", "写到", "さんは書きました", "のメール", "님이 작성", "작성:");
    private static final Set<String> DIVIDERS = folded(
            "original message",
            "originalnachricht",
            "ursprüngliche nachricht",
            "original melding",
            "opprinnelig melding",
            "oprindelig meddelelse",
            "ursprungligt meddelande",
            "originalmeddelande",
            "message d'origine",
            "message original",
            "mensaje original",
            "mensagem original",
            "messaggio originale",
            "oorspronkelijk bericht",
            "wiadomość oryginalna",
            "oryginalna wiadomość",
            "alkuperäinen viesti",
            "původní zpráva",
            "pôvodná správa",
            "исходное сообщение",
            "eredeti üzenet",
            "reply above this line");
    private static final Set<String> FORWARDS = folded(
            "forwarded message",
            "begin forwarded message",
            "weitergeleitete nachricht",
            "anfang der weitergeleiteten nachricht",
            "videresendt melding",
            "videresendt meddelelse",
            "videresend besked",
            "vidarebefordrat meddelande",
            "message transféré",
            "message réexpédié",
            "mensaje reenviado",
            "mensagem encaminhada",
            "messaggio inoltrato",
            "doorgestuurd bericht",
            "wiadomość przekazana",
            "przekazana wiadomość",
            "välitetty viesti",
            "přeposlaná zpráva",
            "пересылаемое сообщение",
            "fwd",
            "forward");
    private static final Pattern DASHES = Pattern.compile("^[\\s\\-_=*]*|[\\s\\-_=*:]*$");
    private static final Set<String> FROM = folded(
            "from",
            "von",
            "fra",
            "från",
            "de",
            "van",
            "da",
            "od",
            "lähettäjä",
            "expéditeur",
            "absender",
            "feladó",
            "от",
            "від",
            "från",
            "avsändare",
            "mittente",
            "remitente",
            "odesílatel");
    private static final Set<String> OTHERS = folded(
            "sent",
            "date",
            "to",
            "cc",
            "subject",
            "gesendet",
            "datum",
            "an",
            "betreff",
            "kopie",
            "sendt",
            "til",
            "kopi",
            "emne",
            "dato",
            "skickat",
            "till",
            "kopia",
            "ämne",
            "envoyé",
            "à",
            "objet",
            "copie",
            "enviado",
            "fecha",
            "para",
            "asunto",
            "data",
            "assunto",
            "inviato",
            "a",
            "oggetto",
            "verzonden",
            "aan",
            "onderwerp",
            "wysłano",
            "do",
            "dw",
            "temat",
            "lähetetty",
            "päivämäärä",
            "vastaanottaja",
            "aihe",
            "odesláno",
            "komu",
            "předmět",
            "predmet",
            "kopie",
            "отправлено",
            "дата",
            "кому",
            "тема",
            "копия",
            "reply-to",
            "importance",
            "priority");
    private static final Pattern LABEL =
            Pattern.compile("^[\\s*]{0,6}([\\p{L}][\\p{L}\\p{M} -]{0,24}?)[\\s*]{0,4}[:：][\\s*]{0,4}(\\S.*)?$");
    private static final Pattern PHONE_CLOSING = Pattern.compile(
            "^(sent from|sent with|sent using|get|sendt fra|sendt med|skickat från|gesendet (von|mit)|von meinem|envoyé (de|depuis)|enviado desde|enviado do|inviato da|verzonden vanaf|wysłane z|lähetetty) [^.!?]{0,60}$",
            Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE);
    private static final Pattern DEVICE = Pattern.compile(
            "phone|mobil|móvil|tablet|android|smart|i(pad|pod)|galaxy|handy|telefon|komórk|nettbrett|puhelim|cellulare|device|gerät|enhet| mail( |$)| app( |$)",
            Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE);

    private Introductions() {}

    private static Set<String> folded(String... words) {
        return Set.copyOf(List.of(words).stream().map(Words::fold).distinct().toList());
    }

    /** How many lines from here on say that somebody wrote at some time, as in "On 1 March 2027, Kim wrote:"; zero when these do not. */
    static int attribution(List<TextLine> lines, int at) {
        String first = lines.get(at).text();
        if (isAttribution(first.strip())) {
            return 1;
        }
        if (Words.list(first).stream().findFirst().filter(BEGINS::contains).isEmpty()) {
            return 0;
        }
        var joined = new StringBuilder(first).append(' ');
        for (int n = 2; n <= MOST_LINES && at + n <= lines.size() && joined.length() <= LONGEST; n++) {
            TextLine line = lines.get(at + n - 1);
            // A line that says it all by itself leaves the lines above it to whoever wrote them.
            if (line.blank()
                    || line.depth() != lines.get(at).depth()
                    || (isAttribution(line.text().strip()) && n < MOST_LINES && beginsAnew(line.text()))) {
                return 0;
            }
            joined.append(line.text()).append(' ');
            if (isAttribution(joined.toString().strip())) {
                return n;
            }
        }
        return 0;
    }

    private static boolean beginsAnew(String line) {
        return Words.list(line).stream().findFirst().filter(BEGINS::contains).isPresent();
    }

    private static boolean isAttribution(String text) {
        boolean ends = text.endsWith(":") || text.endsWith("：");
        if (text.length() > LONGEST || !ends || text.chars().noneMatch(c -> Character.isDigit(c) || c == '@')) {
            return false;
        }
        return Words.list(text).stream().anyMatch(WROTE::contains)
                || WROTE_WITHOUT_BLANKS.stream().anyMatch(text::contains);
    }

    /** Whether a line stands above an earlier message and names nobody, as in "Original message". */
    static boolean isDivider(String line) {
        return framed(line) && DIVIDERS.contains(bare(line));
    }

    /** Whether a line says that what follows is passed on: it is what the message is about. */
    static boolean isForward(String line) {
        String bare = bare(line);
        return (FORWARDS.contains(bare) && (framed(line) || line.strip().endsWith(":")) && bare.length() > 3)
                || (framed(line) && FORWARDS.contains(bare));
    }

    private static boolean framed(String line) {
        String plain = line.strip();
        return plain.length() < 120
                && (plain.startsWith("--")
                        || plain.startsWith("__")
                        || plain.startsWith("==")
                        || plain.startsWith("**"));
    }

    private static String bare(String line) {
        return line.length() > 120 ? "" : Words.fold(DASHES.matcher(line).replaceAll(""));
    }

    /** How many lines from here on are such as stand at the head of a message, the sender first; zero when they are fewer than three. */
    static int header(List<TextLine> lines, int at) {
        int depth = lines.get(at).depth();
        int end = at;
        int count = 0;
        while (end < lines.size()
                && end - at < 12
                && lines.get(end).depth() == depth
                && !lines.get(end).blank()) {
            String label = label(lines.get(end).text());
            boolean first = count == 0;
            if (first ? !FROM.contains(label) : !OTHERS.contains(label)) {
                if (first || (count < 3 && end - at > 4)) {
                    return 0;
                }
                // A long list of receivers runs on over the next line.
                if (count >= 3) {
                    break;
                }
                end++;
                continue;
            }
            count++;
            end++;
        }
        return count >= 3 ? end - at : 0;
    }

    private static String label(String line) {
        if (line.length() > 2_000) {
            return "";
        }
        var found = LABEL.matcher(line);
        return found.matches() ? Words.fold(found.group(1)) : "";
    }

    /** Whether a line is what a telephone adds below a message. */
    static boolean isPhoneClosing(String line) {
        String plain = line.strip();
        return plain.length() < 90
                && PHONE_CLOSING.matcher(plain).matches()
                && DEVICE.matcher(plain).find();
    }
}
