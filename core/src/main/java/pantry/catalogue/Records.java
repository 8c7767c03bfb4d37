package pantry.catalogue;

import java.io.File;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.result.UnableToProduceResultException;
import org.jdbi.v3.core.statement.PreparedBatch;
import pantry.base.PantryException;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.Uses;
import pantry.model.Facts;

/** Items as rows of the index, and as they are read off an asset's folder. */
final class Records {
    private static final String SEPARATOR = "\u001f";

    /** Stands between texts that are read as one. */
    private static final String TEXT_SEPARATOR = "\u001e";

    /** In the order in which {@link #row} takes them. */
    private static final List<String> TEXTS = List.of(
            "folder",
            "stamp",
            "id",
            "name",
            "kind",
            "shelf",
            "version",
            "status",
            "tags",
            "notes",
            "licence",
            "credit",
            "fields",
            "materials",
            "parts",
            "colours",
            "uses",
            "shape",
            "motions",
            "shapes",
            "skeleton");

    private static final List<String> FIGURES =
            List.of("versions", "triangles", "width", "height", "depth", "changed", "bones");
    private static final List<String> COLUMNS =
            Stream.of(List.of("library"), TEXTS, FIGURES).flatMap(List::stream).toList();
    static final String INSERT =
            "INSERT INTO asset (" + String.join(", ", COLUMNS) + ") VALUES (:" + String.join(", :", COLUMNS) + ")";

    private Records() {}

    /** Changes with the card and with every version that is published. */
    static String stamp(Path folder) {
        try {
            Path card = folder.resolve("card.json");
            return Files.getLastModifiedTime(card).toMillis() + " " + Files.size(card) + " "
                    + Files.getLastModifiedTime(folder).toMillis();
        } catch (IOException e) {
            return "unreadable";
        }
    }

    /** An asset as it stands; empty where it cannot be understood, which the library's own check says. */
    static Optional<IndexedAsset> read(Library library, Path folder) {
        try {
            Asset asset = library.asset(folder);
            Optional<String> shown = asset.shown();
            if (shown.isEmpty()) {
                return Optional.empty();
            }
            Facts facts = asset.facts(shown.get());
            return Optional.of(new IndexedAsset(
                    asset.card().id(),
                    asset.card().name(),
                    asset.card().kind().word(),
                    asset.shelf(),
                    shown.get(),
                    asset.status(shown.get()).word(),
                    asset.versions().size(),
                    facts.triangles(),
                    asset.card().tags(),
                    asset.card().notes(),
                    asset.card().licence(),
                    asset.card().credit(),
                    asset.card().fields(),
                    facts.materials().stream().map(Facts.MaterialFact::name).toList(),
                    facts.objects(),
                    facts.colours(),
                    Uses.of(folder).stream().map(Uses.Use::id).distinct().toList(),
                    new double[] {
                        facts.bounds().size().x(),
                        facts.bounds().size().y(),
                        facts.bounds().size().z()
                    },
                    Files.getLastModifiedTime(folder.resolve("card.json")).toMillis(),
                    facts.shape(),
                    library.root().toString(),
                    folder.toString(),
                    IndexedAsset.Moving.of(facts)));
        } catch (PantryException | IOException e) {
            return Optional.empty();
        }
    }

    static void bind(PreparedBatch batch, Library library, String folder, String stamp, IndexedAsset item) {
        List<String> fields = new ArrayList<>();
        item.fields().forEach((name, value) -> fields.add(name + "=" + value));
        batch.bind("library", library.info().id())
                .bind("folder", folder)
                .bind("stamp", stamp)
                .bind("id", item.id())
                .bind("name", clean(item.name()))
                .bind("kind", item.kind())
                .bind("shelf", item.shelf())
                .bind("version", item.version())
                .bind("status", item.status())
                .bind("versions", item.versions())
                .bind("tags", joined(item.tags()))
                .bind("notes", clean(item.notes()))
                .bind("licence", clean(item.licence()))
                .bind("credit", clean(item.credit()))
                .bind("fields", joined(fields))
                .bind("materials", joined(item.materials()))
                .bind("parts", joined(item.parts()))
                .bind("colours", joined(item.colours()))
                .bind("uses", joined(item.uses()))
                .bind("triangles", item.triangles())
                .bind("width", item.size()[0])
                .bind("height", item.size()[1])
                .bind("depth", item.size()[2])
                .bind("changed", item.changed())
                .bind("shape", item.shape())
                .bind("bones", item.moving().bones())
                .bind("motions", joined(item.moving().motions()))
                .bind("shapes", joined(item.moving().shapes()))
                .bind("skeleton", item.moving().skeleton())
                .add();
    }

    /**
     * Reads assets of a library. All texts come in one column, and in plain JDBC: a text costs more to fetch than what is in it,
     * and this is waited for at each start.
     *
     * @param folders which; all for none
     */
    static List<Row> rows(Handle handle, Library library, List<String> folders) {
        String some = folders.isEmpty() ? "" : " AND folder IN (?" + ", ?".repeat(folders.size() - 1) + ")";
        String sql = "SELECT " + String.join(" || ? || ", TEXTS) + ", " + String.join(", ", FIGURES)
                + " FROM asset WHERE library = ?" + some;
        String root = library.root().toString();
        List<Row> rows = new ArrayList<>();
        try (PreparedStatement query = handle.getConnection().prepareStatement(sql)) {
            int at = 1;
            while (at < TEXTS.size()) {
                query.setString(at++, TEXT_SEPARATOR);
            }
            query.setString(at++, library.info().id());
            for (String folder : folders) {
                query.setString(at++, folder);
            }
            try (ResultSet found = query.executeQuery()) {
                while (found.next()) {
                    rows.add(row(root, found));
                }
            }
        } catch (SQLException e) {
            throw new UnableToProduceResultException(e);
        }
        return rows;
    }

    /** A row of the index: where the asset stands in its library, what its folder was when it was read, and what was read. */
    record Row(String folder, String stamp, IndexedAsset item) {}

    private static Row row(String root, ResultSet row) throws SQLException {
        Iterator<String> texts =
                Arrays.asList(row.getString(1).split(TEXT_SEPARATOR, -1)).iterator();
        String folder = texts.next();
        String stamp = texts.next();
        IndexedAsset item = new IndexedAsset(
                texts.next(),
                texts.next(),
                texts.next(),
                texts.next(),
                texts.next(),
                texts.next(),
                row.getInt(2),
                row.getLong(3),
                list(texts.next()),
                texts.next(),
                texts.next(),
                texts.next(),
                fields(texts.next()),
                list(texts.next()),
                list(texts.next()),
                list(texts.next()),
                list(texts.next()),
                new double[] {row.getDouble(4), row.getDouble(5), row.getDouble(6)},
                row.getLong(7),
                texts.next(),
                root,
                root + File.separatorChar + folder.replace('/', File.separatorChar),
                new IndexedAsset.Moving(row.getInt(8), list(texts.next()), list(texts.next()), texts.next()));
        return new Row(folder, stamp, item);
    }

    private static Map<String, String> fields(String joined) {
        Map<String, String> fields = new LinkedHashMap<>();
        for (String field : list(joined)) {
            int equals = field.indexOf('=');
            fields.put(field.substring(0, equals), field.substring(equals + 1));
        }
        return fields;
    }

    /** Databases keep no zero characters, and what separates texts is not part of one. */
    private static String clean(String text) {
        return text.replace("\u0000", "").replace(TEXT_SEPARATOR, " ");
    }

    private static String joined(List<String> texts) {
        return clean(texts.stream().map(text -> text.replace(SEPARATOR, " ")).collect(Collectors.joining(SEPARATOR)));
    }

    private static List<String> list(String joined) {
        return joined.isEmpty() ? List.of() : List.of(joined.split(SEPARATOR));
    }
}
