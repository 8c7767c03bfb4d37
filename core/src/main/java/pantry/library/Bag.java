package pantry.library;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Progress;
import pantry.base.Sha256;

/** Seals folders as bags and checks them (RFC 8493, The BagIt File Packaging Format, version 1.0). */
public final class Bag {
    private static final String MANIFEST = "manifest-sha256.txt";
    private static final String TAG_MANIFEST = "tagmanifest-sha256.txt";
    private static final String INFO = "bag-info.txt";
    private static final String DECLARATION = "BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n";

    private Bag() {}

    /**
     * Makes a bag of a folder whose payload stands in its {@code data} folder already. Whoever makes the folder forces it to
     * disk ({@link AtomicFiles#draft}).
     *
     * @param info labels and values for {@code bag-info.txt}, in order; the payload's size is added
     */
    public static void seal(Path bag, Map<String, String> info, Progress progress) throws IOException {
        List<Path> payload = files(bag.resolve("data"));
        progress.step("sealing " + bag.getFileName(), 0);
        long bytes = 0;
        for (Path file : payload) {
            bytes += Files.size(file);
        }
        String manifest = manifest(bag, payload);
        StringBuilder lines = new StringBuilder();
        info.forEach((label, value) -> lines.append(label)
                .append(": ")
                .append(value.replaceAll("\\s*[\\r\\n]+\\s*", " "))
                .append('\n'));
        lines.append("Payload-Oxum: ")
                .append(bytes)
                .append('.')
                .append(payload.size())
                .append('\n');
        AtomicFiles.write(bag.resolve("bagit.txt"), DECLARATION);
        AtomicFiles.write(bag.resolve(INFO), lines.toString());
        AtomicFiles.write(bag.resolve(MANIFEST), manifest);
        StringBuilder tags = new StringBuilder();
        for (String tag : List.of(INFO, "bagit.txt", MANIFEST)) {
            tags.append(line(bag, bag.resolve(tag)));
        }
        AtomicFiles.write(bag.resolve(TAG_MANIFEST), tags.toString());
    }

    /** Lists the checksums of files, which are read several at once. */
    private static String manifest(Path bag, List<Path> payload) throws IOException {
        try {
            return payload.parallelStream()
                    .map(file -> {
                        try {
                            return line(bag, file);
                        } catch (IOException e) {
                            throw new UncheckedIOException(e);
                        }
                    })
                    .collect(Collectors.joining());
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
    }

    private static String line(Path bag, Path file) throws IOException {
        return Sha256.of(file) + "  " + encoded(bag.relativize(file)) + "\n";
    }

    private static String encoded(Path relative) {
        return relative.toString()
                .replace('\\', '/')
                .replace("%", "%25")
                .replace("\n", "%0A")
                .replace("\r", "%0D");
    }

    private static String decoded(String name) {
        return name.replace("%0A", "\n")
                .replace("%0a", "\n")
                .replace("%0D", "\r")
                .replace("%0d", "\r")
                .replace("%25", "%");
    }

    private static List<Path> files(Path folder) throws IOException {
        try (Stream<Path> all = Files.walk(folder)) {
            return all.filter(file -> Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS))
                    .sorted()
                    .toList();
        }
    }

    private static List<Path> links(Path folder) throws IOException {
        try (Stream<Path> all = Files.walk(folder)) {
            return all.filter(Files::isSymbolicLink).sorted().toList();
        }
    }

    /** The labels and values of {@code bag-info.txt}. */
    static Map<String, String> info(Path bag) throws IOException {
        Map<String, String> info = new HashMap<>();
        for (String line : Files.readAllLines(bag.resolve(INFO), StandardCharsets.UTF_8)) {
            int colon = line.indexOf(':');
            if (colon > 0) {
                info.put(line.substring(0, colon), line.substring(colon + 1).strip());
            }
        }
        return info;
    }

    /** The label that tells the slug and the version that were sealed. */
    static final String SEALED_AS = "Internal-Sender-Identifier";

    /** The name of the version that a bag was sealed as; empty where its seal does not tell. */
    static Optional<String> sealedAs(Path bag) {
        return sealedAs(bag, 1).filter(VersionName::matches);
    }

    /** The slug of the asset when a bag was sealed; empty where its seal does not tell. */
    static Optional<String> sealedUnder(Path bag) {
        return sealedAs(bag, 0);
    }

    private static Optional<String> sealedAs(Path bag, int part) {
        String[] parts = label(bag, SEALED_AS).orElse("").split(" ");
        return parts.length == 2 ? Optional.of(parts[part]) : Optional.empty();
    }

    /** A label's value; empty where the seal does not tell. */
    static Optional<String> label(Path bag, String label) {
        try {
            return Optional.ofNullable(info(bag).get(label));
        } catch (IOException e) {
            return Optional.empty();
        }
    }

    /** A file of a sealed version, and the checksum that it had. */
    record Sealed(Path file, String sum) {
        /** What is wrong with it. */
        Optional<Problem> check() {
            try {
                if (Files.isSymbolicLink(file)) {
                    // Said by itself, and not read.
                    return Optional.empty();
                }
                return Sha256.of(file).equals(sum)
                        ? Optional.empty()
                        : Optional.of(
                                new Problem(file, Problem.Kind.CHANGED, "was changed after the version was sealed"));
            } catch (NoSuchFileException e) {
                return Optional.of(new Problem(file, Problem.Kind.MISSING, "is missing from the sealed version"));
            } catch (IOException e) {
                return Optional.of(new Problem(file, Problem.Kind.UNREADABLE, IoProblems.describe(e)));
            }
        }
    }

    /**
     * The files that a version was sealed with.
     *
     * @param problems gets what is wrong besides their contents: no seal, lines without meaning, files that were added
     */
    static List<Sealed> sealed(Path bag, List<Problem> problems) {
        List<Sealed> files = new ArrayList<>();
        try {
            if (!Files.exists(bag.resolve("bagit.txt")) || !Files.exists(bag.resolve(MANIFEST))) {
                problems.add(new Problem(
                        bag, Problem.Kind.UNSEALED, "the version has no seal (bagit.txt, " + MANIFEST + ")"));
                return files;
            }
            Map<String, String> payload = manifest(bag, MANIFEST, problems);
            Map<String, String> tags =
                    Files.exists(bag.resolve(TAG_MANIFEST)) ? manifest(bag, TAG_MANIFEST, problems) : Map.of();
            payload.forEach((name, sum) -> files.add(new Sealed(bag.resolve(name), sum)));
            tags.forEach((name, sum) -> files.add(new Sealed(bag.resolve(name), sum)));
            for (Path link : links(bag)) {
                problems.add(new Problem(
                        link,
                        Problem.Kind.LINK,
                        "is a link; a sealed version holds files and folders of its own only"));
            }
            for (Path file : files(bag.resolve("data"))) {
                if (!payload.containsKey(bag.relativize(file).toString().replace('\\', '/'))) {
                    problems.add(new Problem(file, Problem.Kind.EXTRA, "was added after the version was sealed"));
                }
            }
        } catch (IOException e) {
            problems.add(new Problem(bag, Problem.Kind.UNREADABLE, IoProblems.describe(e)));
        }
        return files;
    }

    /** Everything that is not as it was sealed; empty where all is well. */
    static List<Problem> check(Path bag) {
        List<Problem> problems = new ArrayList<>();
        sealed(bag, problems).parallelStream()
                .flatMap(file -> file.check().stream())
                .forEachOrdered(problems::add);
        return problems;
    }

    private static Map<String, String> manifest(Path bag, String name, List<Problem> problems) throws IOException {
        Map<String, String> sums = new TreeMap<>();
        for (String line : Files.readAllLines(bag.resolve(name), StandardCharsets.UTF_8)) {
            String[] parts = line.split("\\s+", 2);
            String file = parts.length == 2 ? decoded(parts[1].startsWith("*") ? parts[1].substring(1) : parts[1]) : "";
            if (file.isEmpty() || !bag.resolve(file).normalize().startsWith(bag)) {
                problems.add(new Problem(
                        bag.resolve(name), Problem.Kind.UNREADABLE, "has a line that names no file of the version"));
            } else {
                sums.put(file, parts[0].toLowerCase(java.util.Locale.ROOT));
            }
        }
        return sums;
    }
}
