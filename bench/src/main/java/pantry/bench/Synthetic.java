package pantry.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.UUID;
import pantry.base.Json;
import pantry.base.Names;
import pantry.catalogue.IndexedAsset;
import pantry.library.AssetKind;
import pantry.library.Card;
import pantry.library.Library;
import pantry.library.VersionStatus;

/**
 * Made-up assets by the thousand, the same in each run: names of two or three words and a number, several tags, parts
 * and materials each, over 240 shelves. On disk they lack only what no list shows: geometry and seals.
 */
final class Synthetic {
    private static final String[] FIRST =
            words("lattice tripod folding heavy light spare northern southern rusty painted galvanised insulated heated"
                    + " portable mobile fixed hinged curved straight double single triple left right upper lower inner"
                    + " outer wide narrow tall short round square hollow solid temporary winter summer polar coastal");
    private static final String[] THINGS = words(
            "mast anemometer vane screen radome plinth panel array module corridor stair tractor sledge walkway flag"
                    + " drum battery generator cable antenna crate shelter tank pump valve pipe beam bracket bolt hatch"
                    + " window door lamp railing ladder platform bridge winch anchor buoy tent stove bunk table chair"
                    + " locker rack console monitor keyboard sensor logger heater filter fan duct bench vice toolbox"
                    + " shovel pick rope pulley hook chain wheel track ski runner canopy tarp barrel pallet container");
    private static final String[] MATERIALS =
            words("steel aluminium rubber glass snow plywood canvas copper brass nylon concrete foam ceramic plaster");
    private static final String[] TAGS = words(
            "outdoor indoor storage power instrument vehicle living safety marker access fuel cooking optical radio"
                    + " electrical hydraulic structural decor hero background lowpoly scanned tileable seasonal kit");

    private Synthetic() {}

    private static String[] words(String words) {
        return words.split(" ");
    }

    private static String any(Random random, String[] words) {
        return words[random.nextInt(words.length)];
    }

    private static String title(String word) {
        return word.substring(0, 1).toUpperCase(java.util.Locale.ROOT) + word.substring(1);
    }

    /** Items as the index holds them. */
    static List<IndexedAsset> items(int count) {
        Random random = new Random(14);
        List<IndexedAsset> items = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            String thing = any(random, THINGS);
            String name = title(any(random, FIRST)) + " " + thing + " " + (i % 977);
            List<String> tags = List.of(any(random, TAGS), any(random, TAGS) + " " + any(random, MATERIALS), thing);
            String shelf = title(any(random, TAGS)) + "/" + title(thing);
            List<String> parts = new ArrayList<>();
            for (int p = 0; p < 4; p++) {
                parts.add(title(any(random, THINGS)) + " " + (p + 1));
            }
            double height = Math.exp(random.nextGaussian());
            items.add(new IndexedAsset(
                    new UUID(random.nextLong(), i).toString(),
                    name,
                    AssetKind.values()[random.nextInt(AssetKind.values().length)].word(),
                    shelf,
                    "v001",
                    "ready",
                    1 + random.nextInt(4),
                    (long) (Math.exp(random.nextDouble() * 10) * 12),
                    tags,
                    "Stands beside the " + any(random, FIRST) + " " + any(random, THINGS),
                    "CC0-1.0",
                    "Skua Point workshop",
                    Map.of("Crate", "K" + random.nextInt(400)),
                    List.of(title(any(random, FIRST)) + " " + any(random, MATERIALS), any(random, MATERIALS)),
                    parts,
                    List.of("grey", "red"),
                    List.of(),
                    new double[] {height * 0.7, height, height * 0.5},
                    1_700_000_000_000L + random.nextInt(1_000_000_000),
                    "",
                    "library",
                    "assets/" + shelf + "/" + Names.slug(name) + "-" + i,
                    IndexedAsset.Moving.NOTHING));
        }
        return items;
    }

    /** A library of such assets on disk, each with a card, facts, an entry layer and a picture. */
    static Library library(Path folder, int count, Path picture) throws IOException {
        Library library = Library.create(folder, "Synthetic shelves", "bench", Clock.systemUTC());
        for (IndexedAsset item : items(count)) {
            Path asset = folder.resolve(item.folder());
            Path data = Files.createDirectories(asset.resolve("v001/data"));
            Card card = Card.fresh(
                            item.id(),
                            item.name(),
                            AssetKind.valueOf(item.kind().toUpperCase().replace(' ', '_')))
                    .described(item.tags(), item.notes(), item.licence(), item.credit(), "")
                    .with("v001", VersionStatus.READY);
            Files.writeString(asset.resolve("card.json"), Json.write(card));
            Files.writeString(data.resolve("facts.json"), Json.write(facts(item)));
            Files.writeString(
                    data.resolve(asset.getFileName() + ".usda"),
                    "#usda 1.0\n(\n    defaultPrim = \"Thing\"\n    metersPerUnit = 1\n    upAxis = \"Y\"\n)\n\n"
                            + "def Cube \"Thing\"\n{\n    double size = " + item.size()[1] + "\n}\n");
            picture(data.resolve("preview.png"), picture);
        }
        return library;
    }

    /** One picture for all, as far as the file system lets one file have so many names. */
    private static void picture(Path target, Path picture) throws IOException {
        try {
            Files.createLink(target, picture);
        } catch (IOException e) {
            Files.copy(picture, target);
        }
    }

    private static Map<String, Object> facts(IndexedAsset item) {
        double[] size = item.size();
        Map<String, Object> facts = new LinkedHashMap<>();
        facts.put("file", "thing.usda");
        facts.put("triangles", item.triangles());
        facts.put("bounds", Map.of("min", new double[] {-size[0] / 2, 0, -size[2] / 2}, "max", new double[] {
            size[0] / 2, size[1], size[2] / 2
        }));
        facts.put("unit", 1);
        facts.put("up", "Y");
        facts.put(
                "materials",
                item.materials().stream().map(name -> Map.of("name", name)).toList());
        facts.put("textures", List.of());
        facts.put("objects", item.parts());
        facts.put("colours", item.colours());
        return facts;
    }
}
