/** Hands a file of the server over; it is called as the server says, unless a name is given. */
export function download(address: string, name = ""): void {
  const link = document.createElement("a");
  link.href = address;
  link.download = name;
  link.click();
}
