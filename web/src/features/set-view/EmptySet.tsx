/** Ground for a shot without a set: a tone and a metre grid, so that motion can be seen. */
export function EmptySet() {
  return (
    <>
      <color attach="background" args={["#8FA0A6"]} />
      <mesh rotation-x={-Math.PI / 2} position-y={-0.02}>
        <planeGeometry args={[400, 400]} />
        <meshLambertMaterial color="#7d8479" />
      </mesh>
      <gridHelper args={[60, 60, "#3f4644", "#5f6865"]} />
      {[-9, -6, -3, 0, 3, 6].flatMap((x) =>
        [-4, -8, -14, -22].map((z) => (
          <mesh key={`${x}/${z}`} position={[x + (z % 3), 0.6, z]} castShadow>
            <boxGeometry args={[0.24, 1.2, 0.24]} />
            <meshLambertMaterial color="#b08d57" />
          </mesh>
        )),
      )}
    </>
  );
}
