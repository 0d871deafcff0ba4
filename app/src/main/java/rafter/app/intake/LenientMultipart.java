package rafter.app.intake;

import jakarta.activation.DataSource;
import jakarta.mail.MessagingException;
import jakarta.mail.internet.MimeMultipart;
import java.io.ByteArrayInputStream;
import java.io.InputStream;
import java.io.OutputStream;

/** A multipart that is taken apart even when its boundary is another one than it says, or none is said at all. */
final class LenientMultipart extends MimeMultipart {

    /** The library asks for it while its constructor runs. */
    private static final class Source implements DataSource {
        private final byte[] content;
        private final String type;

        Source(byte[] content, String type) {
            this.content = content;
            this.type = type;
        }

        @Override
        public InputStream getInputStream() {
            return new ByteArrayInputStream(content);
        }

        @Override
        public OutputStream getOutputStream() {
            throw new UnsupportedOperationException("only read");
        }

        @Override
        public String getContentType() {
            return type;
        }

        @Override
        public String getName() {
            return "";
        }
    }

    private final boolean anyBoundary;

    /**
     * @param anyBoundary take the first line that looks like a boundary, whatever was said
     */
    LenientMultipart(byte[] content, MediaType type, boolean anyBoundary) throws MessagingException {
        super(new Source(content, type.name() + type.parameter("boundary").filter(b -> !anyBoundary).map(b -> "; boundary=\"" + b.replace("\\", "\\\\") + "\"").orElse("")));
        this.anyBoundary = anyBoundary;
    }

    @Override
    protected void initializeProperties() {
        super.initializeProperties();
        ignoreMissingBoundaryParameter = true;
        ignoreMissingEndBoundary = true;
        allowEmpty = true;
        ignoreExistingBoundaryParameter = anyBoundary;
    }
}
