package rafter.app.platform;

import jakarta.servlet.http.HttpServletRequest;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.zip.GZIPOutputStream;
import org.springframework.core.io.Resource;
import org.springframework.http.HttpHeaders;
import org.springframework.util.StringUtils;
import org.springframework.web.servlet.resource.HttpResource;
import org.springframework.web.servlet.resource.ResourceTransformer;
import org.springframework.web.servlet.resource.ResourceTransformerChain;
import org.springframework.web.servlet.resource.TransformedResource;

/** Gives files of text to browsers that can unpack them, packed once and not for each that asks: to pack takes longer than all else about a file. */
class Packed implements ResourceTransformer {

    private static final String WAY = "gzip";
    private static final List<String> KINDS = List.of("css", "js", "svg");

    private final Map<Resource, Resource> packed = new ConcurrentHashMap<>();

    @Override
    public Resource transform(HttpServletRequest request, Resource file, ResourceTransformerChain others)
            throws IOException {
        Resource plain = others.transform(request, file);
        String accepted = request.getHeader(HttpHeaders.ACCEPT_ENCODING);
        boolean text = KINDS.contains(StringUtils.getFilenameExtension(plain.getFilename()));
        if (!text || accepted == null || !accepted.contains(WAY)) {
            return plain;
        }
        Resource before = packed.get(plain);
        if (before != null) {
            return before;
        }
        Resource now = pack(plain);
        packed.put(plain, now);
        return now;
    }

    /** The file packed, or as it is where that would make it no shorter. */
    private static Resource pack(Resource plain) throws IOException {
        byte[] content = plain.getContentAsByteArray();
        var bytes = new ByteArrayOutputStream();
        try (var out = new GZIPOutputStream(bytes)) {
            out.write(content);
        }
        return bytes.size() < content.length ? new Bytes(plain, bytes.toByteArray()) : plain;
    }

    /** A file as it travels. */
    private static final class Bytes extends TransformedResource implements HttpResource {

        Bytes(Resource plain, byte[] bytes) {
            super(plain, bytes);
        }

        @Override
        public HttpHeaders getResponseHeaders() {
            var headers = new HttpHeaders();
            headers.set(HttpHeaders.CONTENT_ENCODING, WAY);
            headers.set(HttpHeaders.VARY, HttpHeaders.ACCEPT_ENCODING);
            return headers;
        }
    }
}
