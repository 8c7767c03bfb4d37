package pantry.bench;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.ForkJoinPool;
import java.util.stream.IntStream;
import org.jdbi.v3.core.Jdbi;
import org.jdbi.v3.core.statement.PreparedBatch;
import pantry.base.AtomicFiles;
import pantry.base.Progress;
import pantry.base.Sha256;
import pantry.catalogue.Catalogue;
import pantry.catalogue.Finder;
import pantry.catalogue.IndexedAsset;
import pantry.catalogue.Order;
import pantry.catalogue.SearchText;
import pantry.library.AssetKind;
import pantry.library.Card;
import pantry.library.Library;
import pantry.library.Verification;

/**
 * Measures searching while typing, indexing, and the check of checksums. {@code library DIR N} makes a library of N
 * made-up assets to look at.
 */
public final class Searching {
    /** What is typed, letter by letter; each state of the field is one search. */
    private static final List<String> LOG = List.of(
            "mast",
            "lattice mast",
            "anemometer",
            "anemomter",
            "fuel drum",
            "\"cable drum\"",
            "kind:model tag:safety",
            "rusty triangles:<5000",
            "height:1..3m steel",
            "winter tent -storage",
            "shelf:Power battery",
            "galvanised briget",
            "a",
            "s",
            "licence:CC0 ladder");

    private Searching() {}

    public static void main(String[] arguments) throws Exception {
        if (arguments.length == 3 && arguments[0].equals("library")) {
            Path folder = Path.of(arguments[1]).toAbsolutePath();
            Files.createDirectories(folder.getParent());
            Path picture = folder.resolveSibling(folder.getFileName() + "-picture.png");
            picture(picture);
            Synthetic.library(folder, Integer.parseInt(arguments[2]), picture);
            return;
        }
        List<String> wanted = arguments.length == 0 ? List.of("typing", "index", "verify") : List.of(arguments);
        Path folder = Files.createTempDirectory("pantry-bench-");
        try {
            if (wanted.contains("typing")) {
                typing(folder, 100_000);
            }
            if (wanted.contains("index")) {
                index(folder, 10_000);
            }
            if (wanted.contains("verify")) {
                verify(folder);
            }
        } finally {
            AtomicFiles.deleteTree(folder);
        }
    }

    private static List<String> typed() {
        List<String> states = new ArrayList<>();
        for (String query : LOG) {
            for (int end = 1; end <= query.length(); end++) {
                states.add(query.substring(0, end));
            }
        }
        return states;
    }

    private interface Answer {
        int count(String text);
    }

    private static void typing(Path folder, int count) throws Exception {
        List<IndexedAsset> items = Synthetic.items(count);
        long start = System.nanoTime();
        Finder finder = new Finder(items);
        System.out.printf(
                Locale.ROOT,
                "the finder over %,d assets is made in %.2f s%n",
                count,
                (System.nanoTime() - start) / 1e9);
        percentiles("Pantry", text -> finder.find(SearchText.parse(text), Order.BEST).items().stream()
                .limit(200)
                .mapToInt(item -> item.name().length())
                .sum());
        Jdbi fts = fts(folder, items);
        percentiles("SQLite FTS5, words only, the first 200 by bm25", text -> {
            String match = text.replaceAll("[a-z]+:\\S*|-\\S*", "")
                    .replaceAll("[^\\p{L}\\p{N} ]", "")
                    .strip();
            return match.isEmpty()
                    ? 0
                    : fts.withHandle(handle -> handle.createQuery("SELECT rowid FROM text WHERE text MATCH :match"
                                    + " ORDER BY bm25(text, 10, 4, 1, 2, 3) LIMIT 200")
                            .bind("match", match.replaceAll("\\s+", "* ") + "*")
                            .mapTo(Integer.class)
                            .list()
                            .size());
        });
    }

    private static Jdbi fts(Path folder, List<IndexedAsset> items) {
        Jdbi jdbi = Jdbi.create("jdbc:sqlite:" + folder.resolve("fts.sqlite"));
        jdbi.useTransaction(handle -> {
            handle.execute("CREATE VIRTUAL TABLE text USING fts5 (name, tags, notes, materials, shelf,"
                    + " tokenize = 'unicode61 remove_diacritics 2', prefix = '1 2 3')");
            PreparedBatch batch = handle.prepareBatch("INSERT INTO text VALUES (?, ?, ?, ?, ?)");
            items.forEach(item -> batch.add(
                    item.name(),
                    String.join(" ", item.tags()),
                    item.notes(),
                    String.join(" ", item.materials()),
                    item.shelf()));
            batch.execute();
        });
        return jdbi;
    }

    private static void percentiles(String who, Answer answer) {
        List<String> states = typed();
        List<Double> times = new ArrayList<>();
        for (int round = 0; round < 4; round++) {
            for (String state : states) {
                long start = System.nanoTime();
                answer.count(state);
                if (round > 0) {
                    times.add((System.nanoTime() - start) / 1e6);
                }
            }
        }
        if (System.getProperty("slowest") != null) {
            for (int i = 0; i < states.size(); i++) {
                double best = Math.min(times.get(i), times.get(i + states.size()));
                if (best > 8) {
                    System.out.printf("%.1f %s%n", best, states.get(i));
                }
            }
        }
        times.sort(Double::compare);
        System.out.printf(
                Locale.ROOT,
                "| %s | %d searches | half under %.1f ms | 95 of 100 under %.1f ms | slowest %.1f ms |%n",
                who,
                times.size(),
                times.get(times.size() / 2),
                times.get(times.size() * 95 / 100),
                times.getLast());
    }

    private static void index(Path folder, int count) throws Exception {
        Path picture = folder.resolve("picture.png");
        picture(picture);
        Library library = Synthetic.library(folder.resolve("library"), count, picture);
        try (Catalogue catalogue = Catalogue.open(folder.resolve("index.sqlite"))) {
            System.out.printf(
                    Locale.ROOT,
                    "index of %,d assets made in %.1f s; looked through for changes in %.2f s%n",
                    count,
                    Pairs.seconds(() -> catalogue.refresh(library, Progress.NONE)),
                    Pairs.seconds(() -> catalogue.refresh(library, Progress.NONE)));
        }
        try (Catalogue again = Catalogue.open(folder.resolve("index.sqlite"))) {
            System.out.printf(
                    Locale.ROOT, "opened again: the first answer after %.2f s%n", Pairs.seconds(() -> again.finder(
                                    List.of(library))
                            .find(SearchText.parse(""), Order.BEST)
                            .items()
                            .getFirst()));
        }
    }

    private static void picture(Path file) throws Exception {
        javax.imageio.ImageIO.write(
                new java.awt.image.BufferedImage(384, 384, java.awt.image.BufferedImage.TYPE_INT_ARGB),
                "png",
                file.toFile());
    }

    /** The check of a library against the rate at which all cores make the same checksums of bytes in memory. */
    private static void verify(Path folder) throws Exception {
        Library library = Library.create(folder.resolve("sealed"), "Sealed", "bench", java.time.Clock.systemUTC());
        byte[] bytes = new byte[4 << 20];
        new java.util.Random(1).nextBytes(bytes);
        int assets = 40;
        for (int i = 0; i < assets; i++) {
            library.shelve(
                    Card.fresh("id-" + i, "Thing " + i, AssetKind.MODEL),
                    "Things",
                    (data, slug, version) -> {
                        Files.writeString(
                                data.resolve(slug + ".usda"), "#usda 1.0\n(defaultPrim = \"T\")\ndef \"T\" {}\n");
                        for (int f = 0; f < 4; f++) {
                            Files.write(data.resolve("part-" + f + ".bin"), bytes);
                        }
                    },
                    java.util.Map.of(),
                    Progress.NONE);
        }
        Pairs.header();
        Pairs.pair(
                String.format(Locale.ROOT, "verify %d MB", assets * 4L * bytes.length / 1_000_000),
                () -> {
                    Verification verification = library.verify(Progress.NONE);
                    if (!verification.ok()) {
                        throw new IllegalStateException("the library is not as it was made");
                    }
                },
                "SHA-256 of the same bytes in memory, "
                        + ForkJoinPool.commonPool().getParallelism() + "+1 threads",
                () -> IntStream.range(0, assets * 4).parallel().forEach(i -> Sha256.of(bytes)));
        List<String> command = List.of(
                "sh",
                "-c",
                "find '" + library.root() + "/assets' -name '*.bin' -print0 | xargs -0 -P "
                        + Runtime.getRuntime().availableProcessors() + " -n 8 sha256sum > /dev/null");
        Pairs.pair(
                "the same",
                () -> library.verify(Progress.NONE),
                "sha256sum of the same files, one process for each core",
                () -> {
                    if (new ProcessBuilder(command).inheritIO().start().waitFor() != 0) {
                        throw new IllegalStateException("sha256sum failed");
                    }
                });
    }
}
