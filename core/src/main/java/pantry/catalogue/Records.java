package pantry.catalogue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jdbi.v3.core.statement.PreparedBatch;
import pantry.base.PantryException;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.Uses;
import pantry.model.Facts;

/** Items as rows of the index, and as they are read off an asset's folder. */
final class Records {
    private static final String SEPARATOR = "\u001f";
    private static final List<String> COLUMNS = List.of(
            "library",
            "folder",
            "stamp",
            "id",
            "name",
            "kind",
            "shelf",
            "version",
            "status",
            "versions",
            "tags",
            "notes",
            "licence",
            "credit",
            "fields",
            "materials",
            "parts",
            "colours",
            "uses",
            "triangles",
            "width",
            "height",
            "depth",
            "changed",
            "shape",
            "bones",
            "motions",
            "shapes");
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
                    new IndexedAsset.Moving(
                            facts.bones(),
                            facts.motions().stream().map(Facts.MotionFact::name).toList(),
                            facts.shapes())));
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
                .bind("name", item.name())
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
                .add();
    }

    static IndexedAsset item(Library library, ResultSet row) throws SQLException {
        Map<String, String> fields = new LinkedHashMap<>();
        for (String field : list(row.getString("fields"))) {
            int equals = field.indexOf('=');
            fields.put(field.substring(0, equals), field.substring(equals + 1));
        }
        return new IndexedAsset(
                row.getString("id"),
                row.getString("name"),
                row.getString("kind"),
                row.getString("shelf"),
                row.getString("version"),
                row.getString("status"),
                row.getInt("versions"),
                row.getLong("triangles"),
                list(row.getString("tags")),
                row.getString("notes"),
                row.getString("licence"),
                row.getString("credit"),
                fields,
                list(row.getString("materials")),
                list(row.getString("parts")),
                list(row.getString("colours")),
                list(row.getString("uses")),
                new double[] {row.getDouble("width"), row.getDouble("height"), row.getDouble("depth")},
                row.getLong("changed"),
                row.getString("shape"),
                library.root().toString(),
                library.root().resolve(row.getString("folder")).toString(),
                new IndexedAsset.Moving(
                        row.getInt("bones"), list(row.getString("motions")), list(row.getString("shapes"))));
    }

    /** Databases keep no zero characters. */
    private static String clean(String text) {
        return text.replace("\u0000", "");
    }

    private static String joined(List<String> texts) {
        return clean(String.join(SEPARATOR, texts));
    }

    private static List<String> list(String joined) {
        return joined.isEmpty() ? List.of() : List.of(joined.split(SEPARATOR));
    }
}
