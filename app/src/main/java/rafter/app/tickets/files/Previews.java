package rafter.app.tickets.files;

import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.Iterator;
import java.util.Optional;
import java.util.concurrent.Semaphore;
import javax.imageio.ImageIO;
import javax.imageio.ImageReader;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.pdmodel.PDPage;
import org.apache.pdfbox.rendering.PDFRenderer;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Makes small pictures of pictures and of first pages, of whatever strangers sent: within bounds, and a few at once. */
@Component
class Previews {

    private static final Logger LOG = LoggerFactory.getLogger(Previews.class);
    private static final int WIDTH = 320;
    private static final int HEIGHT = 320;
    private static final long MOST_PIXELS = 40_000_000;
    /** Points of a page, in which a page is measured; larger ones are plans of buildings, and are not drawn. */
    private static final float LARGEST_PAGE = 5_000;

    /** Decoding takes much memory, so only two are made at a time. */
    private final Semaphore atOnce = new Semaphore(2);

    /**
     * A small picture as PNG.
     *
     * @return nothing when it is none that can be shown
     */
    Optional<byte[]> of(TicketFiles.Content file) {
        atOnce.acquireUninterruptibly();
        try {
            Optional<BufferedImage> large =
                    TicketFiles.isPdf(file.mediaType(), file.name()) ? page(file.bytes()) : picture(file.bytes());
            return large.map(Previews::small).map(Previews::png);
        } catch (IOException | RuntimeException | StackOverflowError broken) {
            LOG.info("No small picture can be made of {}: {}", file.name(), broken.toString());
            return Optional.empty();
        } finally {
            atOnce.release();
        }
    }

    private static Optional<BufferedImage> picture(byte[] content) throws IOException {
        try (var in = ImageIO.createImageInputStream(new ByteArrayInputStream(content))) {
            Iterator<ImageReader> readers = ImageIO.getImageReaders(in);
            if (!readers.hasNext()) {
                return Optional.empty();
            }
            ImageReader reader = readers.next();
            try {
                reader.setInput(in, true, true);
                // Before it is decoded: a few bytes can claim to be a picture as large as a field.
                long pixels = (long) reader.getWidth(0) * reader.getHeight(0);
                return pixels > MOST_PIXELS ? Optional.empty() : Optional.of(reader.read(0));
            } finally {
                reader.dispose();
            }
        }
    }

    private static Optional<BufferedImage> page(byte[] content) throws IOException {
        try (PDDocument document = Loader.loadPDF(content)) {
            if (document.getNumberOfPages() == 0) {
                return Optional.empty();
            }
            PDPage first = document.getPage(0);
            float width = first.getCropBox().getWidth();
            float height = first.getCropBox().getHeight();
            if (width <= 0 || height <= 0 || width > LARGEST_PAGE || height > LARGEST_PAGE) {
                return Optional.empty();
            }
            return Optional.of(new PDFRenderer(document).renderImage(0, 2 * WIDTH / width));
        }
    }

    private static BufferedImage small(BufferedImage large) {
        double scale = Math.min(1, Math.min((double) WIDTH / large.getWidth(), (double) HEIGHT / large.getHeight()));
        int width = Math.max(1, (int) Math.round(large.getWidth() * scale));
        int height = Math.max(1, (int) Math.round(large.getHeight() * scale));
        var small = new BufferedImage(width, height, BufferedImage.TYPE_INT_ARGB);
        Graphics2D pen = small.createGraphics();
        pen.setRenderingHint(RenderingHints.KEY_INTERPOLATION, RenderingHints.VALUE_INTERPOLATION_BILINEAR);
        pen.drawImage(large, 0, 0, width, height, null);
        pen.dispose();
        return small;
    }

    private static byte[] png(BufferedImage picture) {
        try {
            var out = new ByteArrayOutputStream();
            ImageIO.write(picture, "png", out);
            return out.toByteArray();
        } catch (IOException e) {
            throw new IllegalStateException("memory can be written to", e);
        }
    }
}
